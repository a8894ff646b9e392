-- Views of lists that people keep for themselves.
create table saved_view (
  owner text not null,
  page text not null,
  name text not null,
  query text not null,
  at timestamptz not null,
  primary key (owner, page, name)
);
