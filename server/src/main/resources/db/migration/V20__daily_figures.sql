-- What an account had on a day; whole once the day was over when it was counted.
create table daily_figures (
  account  text not null,
  day      date not null,
  whole    boolean not null,
  people   int not null,
  guests   int not null,
  services int not null,
  dormant  int not null,
  findings int not null,
  primary key (account, day)
);
