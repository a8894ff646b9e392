-- Roles and groups that an assignment or bridge of any revision gave or was given to: such a thing is
-- retired rather than removed, so that the past can still be read. A reference is role:K or group:K.
create table given_once (
  reference text primary key
);

insert into given_once
select distinct value #>> '{}'
from model_entry, jsonb_path_query(changes::jsonb, 'lax $.**.gives') value
where jsonb_typeof(value) = 'string' and value #>> '{}' like 'role:%'
on conflict do nothing;

insert into given_once
select distinct value #>> '{}'
from model_entry, jsonb_path_query(changes::jsonb, 'lax $.**.subject') value
where jsonb_typeof(value) = 'string' and value #>> '{}' like 'group:%'
on conflict do nothing;

insert into given_once
select distinct 'group:' || (value #>> '{}')
from model_entry,
  jsonb_path_query(changes::jsonb, 'lax $.** ? (exists (@.gives) && exists (@.group)).group') value
where jsonb_typeof(value) = 'string'
on conflict do nothing;

insert into given_once select distinct gives from assignment where gives like 'role:%'
on conflict do nothing;
insert into given_once select distinct subject from assignment where subject like 'group:%'
on conflict do nothing;
insert into given_once select distinct gives from bridge where gives like 'role:%'
on conflict do nothing;
insert into given_once select distinct 'group:' || source_group from bridge
on conflict do nothing;
