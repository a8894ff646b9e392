-- How exposed people, groups, roles' holders and accounts were; a row counts until the next one.
create table exposure (
  kind     text not null check (kind in ('principal', 'group', 'role', 'account')),
  name     text not null,
  since    date not null,
  people   int not null,
  rights   bigint not null,
  exposure bigint not null,
  unused   bigint not null, -- the exposure that is not used
  primary key (kind, name, since)
);

-- What was counted last.
create table exposure_count (
  one         boolean primary key default true check (one),
  revision    bigint not null,
  use_basis   text not null, -- batches, strangers taken up and sources
  window_days int not null,
  day         date not null,
  counted_at  timestamptz not null
);
