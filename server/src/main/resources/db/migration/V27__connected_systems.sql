-- Systems of which what their people hold is compared with the model.
create table connected_system (
  key                text primary key,
  name               text not null,
  account            text not null,
  identity_column    text not null,
  entitlement_column text not null,
  place_column       text, -- null where it has no places
  terms              int   -- version in force
);

-- What their terms mean; versions are kept as they were sent.
create table system_terms (
  system   text not null references connected_system on delete cascade,
  version  int not null,
  made_at  timestamptz not null,
  made_by  text not null,
  content  text not null,
  tried_at timestamptz,
  primary key (system, version)
);

-- The newest table of what a system holds, as it was sent.
create table system_held (
  system  text primary key references connected_system on delete cascade,
  content bytea not null
);

create table system_comparison (
  system       text not null references connected_system on delete cascade,
  number       int not null,
  compared_at  timestamptz not null,
  asked_by     text not null,
  sent         boolean not null, -- false where the newest table was compared again
  terms        int not null,
  revision     bigint not null,
  lines        int not null,
  agreeing     int not null,
  untranslated text not null, -- JSON: lines by name
  primary key (system, number)
);

-- Whom the system's identities meant, from one comparison to another.
create table system_identity (
  system   text not null references connected_system on delete cascade,
  identity text not null,
  who      text,          -- null where nobody in the model
  lines    int not null,
  first    int not null,  -- comparison since which it means them
  gone     int,           -- comparison that met it no more, or meaning another
  held     text[] not null,
  primary key (system, identity, first)
);

-- Differences about somebody; unknown people are identities.
create table discrepancy (
  system     text not null references connected_system on delete cascade,
  id         text not null,
  first      int not null, -- comparison that found it
  gone       int,          -- comparison that did not find it any more
  kind       text not null,
  who        text,
  permission text,
  missing    text[] not null,
  extra      text[] not null,
  identity   text,
  lines      int not null,
  held       text[] not null, -- what the system holds of it, in its terms
  primary key (system, id, first)
);

-- What people said of discrepancies.
create table discrepancy_state (
  system          text not null references connected_system on delete cascade,
  id              text not null,
  accepted_until  timestamptz,
  accepted_by     text,
  accepted_at     timestamptz,
  accepted_size   int,
  reason          text,
  draft           text, -- that settles it
  primary key (system, id)
);
