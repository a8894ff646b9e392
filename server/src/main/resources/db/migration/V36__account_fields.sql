-- Fields that an account asks of the people and services at home in it and below.
create table account_fields (
  account text primary key,
  fields  text not null -- in their order, JSON
);
