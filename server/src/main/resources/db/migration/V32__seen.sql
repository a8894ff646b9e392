-- When principals were seen last here: signed in, or calling with a token. Each note gets the next
-- number, so that every instance finds what is new to it whatever the clocks of others say.
create sequence seen_number;
create table seen (
  principal text primary key,
  at        timestamptz not null,
  number    bigint not null default nextval('seen_number')
);
create index seen_by_number on seen (number);
insert into seen (principal, at)
  select principal, max(used_at) from token where used_at is not null group by principal;
