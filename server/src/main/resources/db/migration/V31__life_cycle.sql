-- Links by which somebody chooses their password; only their hashes are kept.
create table sign_in_link (
  hash      text primary key,
  principal text not null,
  purpose   text not null check (purpose in ('invitation', 'reset', 'first-password')),
  address   text,                 -- where it was sent; null where it was shown
  made_at   timestamptz not null,
  made_by   text,                 -- null where it was made by itself
  ends_at   timestamptz not null
);
create index sign_in_link_principal on sign_in_link (principal);

-- What happens to somebody at a date, kept as it was chosen.
create table planned_act (
  number      bigint generated always as identity primary key,
  principal   text not null,
  act         text not null check (act in ('move', 'grace', 'part')),
  choice      text not null,      -- JSON
  owner       text not null,      -- with whose rights it happens
  made_at     timestamptz not null,
  due_at      timestamptz not null,
  after_draft text,               -- it happens only where this draft was applied
  draft       text,               -- that carries it out
  ended_at    timestamptz,
  outcome     text,               -- how it ended
  held_up     text                -- why it waits
);
create index planned_act_principal on planned_act (principal);
create index planned_act_due on planned_act (due_at) where ended_at is null;
