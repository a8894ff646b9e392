-- What detectors found at the last look, and for a while what they found before.
create table finding (
  id          text primary key,
  detector    text not null,
  trouble     text not null, -- JSON, with its evidence
  risk        text not null,
  weight      bigint not null,
  people      text[] not null,
  within      text[] not null,
  homes       text[] not null,
  since       timestamptz not null,
  revision    bigint not null, -- that was in force then
  resolved_at timestamptz
);

-- What people said of findings, of broken rules too.
create table finding_state (
  id              text primary key,
  owner           text,
  accepted_until  timestamptz,
  accepted_by     text,
  accepted_at     timestamptz,
  accepted_risk   text,
  accepted_weight bigint,
  reason          text,
  draft           text -- in which a remedy is
);

-- What was looked at last.
create table finding_look (
  one         boolean primary key default true check (one),
  revision    bigint not null,
  use_basis   text not null,
  window_days int not null,
  day         date not null,
  looked_at   timestamptz not null,
  cut         text[] not null -- detectors that did not look at everything
);
