-- When principals were seen last here: signed in, or calling with a token.
create table seen (
  principal text primary key,
  at        timestamptz not null
);
create index seen_at on seen (at);
insert into seen (principal, at)
  select principal, max(used_at) from token where used_at is not null group by principal;
