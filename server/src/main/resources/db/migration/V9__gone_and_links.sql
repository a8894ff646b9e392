-- The link that creates the first owner is good for a while only.
alter table owner_link add column expires_at timestamptz not null default now() + interval '1 hour';

-- Principals that were removed, and the last line of the trail then: of whoever has the key later,
-- lines up to that one are not their own.
create table gone_principal (
  principal text not null,
  seq bigint not null,
  primary key (principal, seq)
);
