-- Which rules of the model do not hold, and since when: looked at after each revision and now and
-- then between, for windows open and close without one.
create table rule_watch (
  one boolean primary key default true check (one),
  revision bigint not null,
  looked_at timestamptz not null
);
create table rule_broken (
  about text primary key,
  name text not null,
  said text not null,
  accounts text not null,
  revision bigint not null,
  since timestamptz not null
);
