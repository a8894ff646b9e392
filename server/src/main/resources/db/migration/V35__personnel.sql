-- Lists of the personnel office: how each is read, and what was taken of it.
create table personnel_source (
  number   bigint generated always as identity primary key,
  what     text not null,        -- how it is read, JSON
  owner    text not null,        -- with whose rights a file of the folder is taken
  made_at  timestamptz not null,
  ended_at timestamptz
);

create table personnel_list (
  number   bigint generated always as identity primary key,
  source   bigint not null references personnel_source,
  at       timestamptz not null,
  given_by text,                 -- who gave it by hand; null of a file of the folder
  hash     text not null,        -- SHA-256 of the file, hexadecimal
  joins    int not null default 0,
  changes  int not null default 0,
  returns  int not null default 0,
  leaves   int not null default 0,
  faulty   int not null default 0,
  holds    int not null default 0, -- people it owned before it
  state    text not null check (state in ('stopped', 'unreadable', 'proposed', 'waits', 'applied',
                                          'nothing', 'dismissed', 'declined', 'discarded')),
  held_up  text,                 -- why it is not in force
  content  text,                 -- the file, kept only while it is stopped
  draft    text,                 -- that has what it changes
  revision bigint                -- in which that is in force
);
create index personnel_list_source on personnel_list (source, number desc);
