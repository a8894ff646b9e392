-- Who can sign in, and the sessions of those who have.

create table credential (
  principal text collate "C" primary key,
  password_hash text not null,
  totp_secret text,
  -- the last time step whose code was used, so that no code is used twice
  totp_last_step bigint not null default -1
);

-- The link that creates the first owner; used once.
create table owner_link (
  token_hash text primary key,
  used_at timestamptz
);

-- Failed sign-ins, kept by the rate limiter.
create table sign_in_throttle (
  id text primary key,
  state bytea,
  expires_at bigint
);

-- Spring Session's tables.
create table spring_session (
  primary_id char(36) not null,
  session_id char(36) not null,
  creation_time bigint not null,
  last_access_time bigint not null,
  max_inactive_interval int not null,
  expiry_time bigint not null,
  principal_name varchar(200),
  constraint spring_session_pk primary key (primary_id)
);
create unique index spring_session_ix1 on spring_session (session_id);
create index spring_session_ix2 on spring_session (expiry_time);
create index spring_session_ix3 on spring_session (principal_name);

create table spring_session_attributes (
  session_primary_id char(36) not null,
  attribute_name varchar(200) not null,
  attribute_bytes bytea not null,
  constraint spring_session_attributes_pk primary key (session_primary_id, attribute_name),
  constraint spring_session_attributes_fk foreign key (session_primary_id)
    references spring_session (primary_id) on delete cascade
);
