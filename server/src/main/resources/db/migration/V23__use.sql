-- Who reports use: of which permissions on which places, and since when whole.
create table use_source (
  number      int generated always as identity unique,
  key         text primary key,
  name        text not null,
  account     text not null,
  permissions text[],
  places      text[] not null,
  since       date not null,
  columns     jsonb not null
);

-- What was brought in together: once for a key of a source.
create table use_batch (
  id       bigint generated always as identity primary key,
  source   text not null,
  key      text not null,
  hash     text not null,
  at       timestamptz not null,
  sent_by  text not null,
  records  bigint not null,
  unknown  bigint not null,
  people   int[] not null,
  unique (source, key)
);

-- Names by number: 0 principals, 1 permissions, 2 resources.
create table use_name (
  number int generated always as identity primary key,
  kind   smallint not null,
  name   text not null,
  unique (kind, name)
);

-- Use of one day; actor 0 is whose access it was. A partition is a month.
create table use_day (
  whose      int not null,
  permission int not null,
  resource   int not null,
  actor      int not null,
  source     int not null,
  day        date not null,
  count      int not null,
  primary key (whose, permission, resource, actor, source, day)
) partition by range (day);

-- Use of a month that is over: bit 0 of days is its first day. A partition is a month.
create table use_month (
  whose      int not null,
  permission int not null,
  resource   int not null,
  actor      int not null,
  source     int not null,
  month      date not null,
  days       int not null,
  count      int not null,
  primary key (whose, permission, resource, actor, source, month)
) partition by range (month);

create table use_partition (
  month  date primary key,
  rolled boolean not null
);

-- Records that name what their sender does not know: the model lacks it, or, where used, they may
-- not read it; these are in use as well.
create table use_stranger (
  source     int not null,
  names      text not null, -- digest of the four
  principal  text not null,
  permission text not null,
  resource   text not null,
  acting_for text not null,
  day        date not null,
  count      int not null,
  records    int not null,
  arrived    date not null,
  used       boolean not null,
  primary key (source, names, day, used)
);
create index use_stranger_by_arrival on use_stranger (arrived);

create table use_policy (
  one            boolean primary key default true check (one),
  rolled_after   int not null,
  kept           int not null,
  strangers_kept int not null,
  window_days    int not null,
  own_since      date not null -- the first day of which Mandala reported its own use whole
);
insert into use_policy (rolled_after, kept, strangers_kept, window_days, own_since)
values (62, 400, 60, 180, (now() at time zone 'utc')::date + 1);
