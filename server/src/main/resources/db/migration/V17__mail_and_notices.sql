-- Mail that went out or waits to; without a mail server this is the outbox that is read here.
create table mail (
  id           text primary key,
  person       text not null,
  recipient    text not null,
  subject      text not null,
  body         text not null,
  state        text not null check (state in ('waiting', 'sending', 'sent', 'kept', 'refused', 'failed')),
  repeated     boolean not null default false,
  attempts     int not null default 0,
  made_at      timestamptz not null,
  tried_at     timestamptz,
  fault        text
);
create index mail_made on mail (made_at desc);
create index mail_of_person on mail (person, made_at desc);

-- What somebody is told, in the application and perhaps by mail.
create table notice (
  id       bigint generated always as identity primary key,
  person   text not null,
  kind     text not null,
  said     text not null,
  link     text,
  at       timestamptz not null,
  read_at  timestamptz,
  digest   boolean not null default false
);
create index notice_of_person on notice (person, id desc);
create index notice_unread on notice (person) where read_at is null;
create index notice_for_digest on notice (person) where digest;

create table notice_choice (
  person   text not null,
  kind     text not null,
  delivery text not null check (delivery in ('here', 'mail', 'digest')),
  primary key (person, kind)
);

-- What an account demands of those at home in it or below.
create table notice_demand (
  account  text not null,
  kind     text not null,
  delivery text not null check (delivery in ('mail', 'digest')),
  primary key (account, kind)
);

-- What somebody was told of already, so that it is told once.
create table told_once (
  about  text not null,
  person text not null,
  at     timestamptz not null,
  primary key (about, person)
);
