-- Rules that watch for people who are not seen, and for what is left over.
create table watch_rule (
  number   bigint generated always as identity primary key,
  what     text not null,         -- the rule, JSON
  owner    text not null,         -- with whose rights it acts
  made_at  timestamptz not null,
  draft    text,                  -- that carries out what it found
  people   int,                   -- on whom that draft acts
  held_up  text,                  -- why it waits
  ended_at timestamptz
);

-- Whom a rule warned or reported, once for each time they were last seen.
create table watch_warning (
  rule      bigint not null references watch_rule,
  principal text not null,
  since     timestamptz not null,
  warned_at timestamptz not null,
  primary key (rule, principal)
);

-- What rules did.
create table watch_act (
  number   bigint generated always as identity primary key,
  rule     bigint not null references watch_rule,
  at       timestamptz not null,
  act      text not null check (act in ('warned', 'acted', 'reported')),
  people   int not null,
  revision bigint                 -- that did it; null of warnings and reports
);
create index watch_act_rule on watch_act (rule, at desc);
