-- The access model: one table for each kind of thing (access-model.md, section 1).
-- Keys sort by code point, so that exports have a stable order. References between the things that
-- make up the directory are foreign keys, checked at the end of a transaction.

create table account (
  key text collate "C" primary key,
  name text,
  description text,
  note text,
  parent text,
  suspended boolean not null,
  sealed boolean not null
);

create table unit (
  key text collate "C" primary key,
  name text,
  description text,
  note text,
  account text not null,
  parent text
);

create table pattern (
  key text collate "C" primary key,
  name text,
  description text,
  note text,
  account text
);

create table principal (
  key text collate "C" primary key,
  name text,
  description text,
  note text,
  kind text not null,
  account text not null,
  unit text,
  manager text,
  status text not null,
  from_at timestamptz,
  until_at timestamptz,
  mfa boolean not null,
  attributes jsonb not null,
  pattern text,
  reach jsonb not null,
  email text,
  last_seen timestamptz
);

create sequence guest_seq increment by 50;
create table guest (
  id bigint primary key,
  name text,
  description text,
  note text,
  principal text not null,
  account text not null,
  with_subaccounts boolean not null,
  from_at timestamptz,
  until_at timestamptz
);

create table access_group (
  key text collate "C" primary key,
  name text,
  description text,
  note text,
  account text not null,
  retired boolean not null,
  members text[] not null,
  rule jsonb,
  owners text[] not null
);

create table resource_type (
  key text collate "C" primary key,
  name text,
  description text,
  note text,
  account text
);

create table permission (
  key text collate "C" primary key,
  name text,
  description text,
  note text,
  account text,
  applies_to text[] not null,
  access_class text not null,
  risk text not null,
  implies text[] not null,
  requires text[] not null,
  delegable boolean
);

create table permission_set (
  key text collate "C" primary key,
  name text,
  description text,
  note text,
  account text,
  allows text[] not null,
  denies text[] not null,
  includes text[] not null
);

create table role (
  key text collate "C" primary key,
  name text,
  description text,
  note text,
  account text,
  code text,
  based_on text,
  retired boolean not null,
  sets text[] not null,
  inherits text[] not null,
  requires_mfa boolean not null,
  prerequisites text[] not null,
  min_holders integer,
  max_holders integer
);

create table resource (
  key text collate "C" primary key,
  name text,
  description text,
  note text,
  type text not null,
  account text not null,
  parent text,
  owner text,
  unit text,
  labels jsonb not null,
  sealed boolean not null
);

create table collection (
  key text collate "C" primary key,
  name text,
  description text,
  note text,
  account text not null,
  members text[] not null
);

-- assignments and expectations keep references in words, role:K, which name more than one table
create table assignment (
  key text collate "C" primary key,
  name text,
  description text,
  note text,
  subject text not null,
  gives text not null,
  effect text not null,
  scope jsonb not null,
  view_scope jsonb not null,
  from_at timestamptz,
  until_at timestamptz,
  mode text not null,
  crosses_seals boolean not null
);

create sequence activation_seq increment by 50;
create table activation (
  id bigint primary key,
  name text,
  description text,
  note text,
  principal text not null,
  assignment text not null,
  from_at timestamptz,
  until_at timestamptz
);

create table bridge (
  key text collate "C" primary key,
  name text,
  description text,
  note text,
  account text not null,
  source_group text not null,
  gives text not null,
  scope jsonb not null,
  from_at timestamptz,
  until_at timestamptz,
  status text not null
);

create table delegation (
  key text collate "C" primary key,
  name text,
  description text,
  note text,
  principal text not null,
  delegate text not null,
  limit_to text[],
  scope jsonb not null,
  from_at timestamptz,
  until_at timestamptz
);

create table exclusion (
  key text collate "C" primary key,
  name text,
  description text,
  note text,
  account text,
  sides jsonb not null,
  at_most integer not null,
  place text not null,
  exempt jsonb not null
);

create table expectation (
  key text collate "C" primary key,
  name text,
  description text,
  note text,
  account text,
  form text not null,
  subjects text[] not null,
  permissions text[] not null,
  scope jsonb not null,
  at_least integer,
  at_most integer
);

alter table account add foreign key (parent) references account deferrable initially deferred;
alter table unit add foreign key (account) references account deferrable initially deferred;
alter table unit add foreign key (parent) references unit deferrable initially deferred;
alter table pattern add foreign key (account) references account deferrable initially deferred;
alter table principal add foreign key (account) references account deferrable initially deferred;
alter table principal add foreign key (unit) references unit deferrable initially deferred;
alter table principal add foreign key (manager) references principal deferrable initially deferred;
alter table principal add foreign key (pattern) references pattern deferrable initially deferred;
alter table guest add foreign key (principal) references principal deferrable initially deferred;
alter table guest add foreign key (account) references account deferrable initially deferred;
alter table access_group add foreign key (account) references account deferrable initially deferred;
alter table resource_type add foreign key (account) references account deferrable initially deferred;
alter table permission add foreign key (account) references account deferrable initially deferred;
alter table permission_set add foreign key (account) references account deferrable initially deferred;
alter table role add foreign key (account) references account deferrable initially deferred;
alter table resource add foreign key (account) references account deferrable initially deferred;
alter table resource add foreign key (owner) references principal deferrable initially deferred;
alter table resource add foreign key (unit) references unit deferrable initially deferred;
alter table collection add foreign key (account) references account deferrable initially deferred;
alter table activation add foreign key (principal) references principal deferrable initially deferred;
alter table activation add foreign key (assignment) references assignment deferrable initially deferred;
alter table bridge add foreign key (account) references account deferrable initially deferred;
alter table bridge add foreign key (source_group) references access_group deferrable initially deferred;
alter table delegation add foreign key (principal) references principal deferrable initially deferred;
alter table delegation add foreign key (delegate) references principal deferrable initially deferred;
alter table exclusion add foreign key (account) references account deferrable initially deferred;
alter table expectation add foreign key (account) references account deferrable initially deferred;

-- Which state of the model this is: one row, counted up by every change.
create table model_revision (
  id integer primary key check (id = 1),
  number bigint not null,
  demo boolean not null,
  changed_at timestamptz not null
);
insert into model_revision values (1, 0, false, now());
