-- What each revision changed, so that any past one can be read again: changes as JSON, and now and
-- then a full copy. A revision that replaced the whole model has a copy and no changes.
create table model_entry (
  number bigint primary key,
  at timestamptz not null,
  author text,
  title text not null,
  draft text,
  takes_back bigint,
  size integer not null,
  changes text
);

create table model_copy (
  number bigint primary key,
  document bytea not null -- a mandala-model/1 document, gzip
);

-- Drafts: what somebody wants to change. The changes are one JSON text; version counts every edit.
create table draft (
  id text primary key,
  owner text not null,
  name text,
  state text not null check (state in ('open', 'aside', 'applied', 'discarded')),
  base bigint not null,
  changes text not null,
  version bigint not null,
  takes_back bigint,
  applied_as bigint,
  created_at timestamptz not null,
  changed_at timestamptz not null
);
create unique index one_open_draft on draft (owner) where state = 'open';
create index draft_of on draft (owner, changed_at desc);

create table draft_comment (
  id bigint generated always as identity primary key,
  draft text not null references draft (id),
  author text not null,
  said text not null,
  at timestamptz not null
);
create index comment_of on draft_comment (draft, id);

-- An approval is of exact content; of any other it says nothing.
create table draft_approval (
  draft text not null references draft (id),
  approver text not null,
  content text not null,
  at timestamptz not null,
  primary key (draft, approver)
);

-- The trail: one line for each thing done, chained by hashes. It names people and things by key
-- and name as they were, with no references, so that it outlives them.
create table trail (
  seq bigint primary key,
  at timestamptz not null,
  who text,
  who_name text,
  acting_for text,
  act text not null,
  revision bigint,
  kind text,
  thing text,
  name text,
  accounts text[] not null, -- keys of the accounts concerned
  places text[] not null, -- keys of resources from the thing up to its root account
  said text not null,
  before text,
  after text,
  address text,
  hash text not null
);
create index trail_at on trail (at desc, seq desc);
create index trail_who on trail (who, seq desc);
create index trail_thing on trail (kind, thing, seq desc);
create index trail_revision on trail (revision);

create table trail_head (
  id integer primary key check (id = 1),
  seq bigint not null,
  hash text not null
);
insert into trail_head values (1, 0, '');
