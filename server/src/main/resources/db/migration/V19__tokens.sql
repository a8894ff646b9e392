-- Tokens of connections; of the secret only its SHA-256 is kept.
create table token (
  id         text primary key,
  name       text not null,
  principal  text not null,
  purposes   text[] not null,
  accounts   text[] not null,
  hash       text not null unique,
  made_by    text not null,
  made_at    timestamptz not null,
  ends_at    timestamptz not null,
  used_at    timestamptz,
  used_from  text,
  revoked_at timestamptz,
  revoked_by text
);
create index token_of_principal on token (principal);
create index token_of_account on token using gin (accounts);
