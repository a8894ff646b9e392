-- When a second person must approve, besides section 11: for root accounts that ask for it.
create table approval_policy (
  account text primary key,
  people integer not null check (people >= 0)
);
