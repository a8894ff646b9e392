-- What each revision touched, so that other running instances read again just that.
-- A revision that replaced the whole model has one row of the kind WHOLE.
create table model_touch (
  revision bigint not null,
  kind text not null,
  key text not null,
  primary key (revision, kind, key)
);
