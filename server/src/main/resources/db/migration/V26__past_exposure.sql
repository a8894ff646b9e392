-- How exposed those at home in accounts were on days before any figure was kept.
create table past_exposure (
  account  text not null,
  day      date not null,
  exposure bigint not null,
  primary key (account, day)
);
