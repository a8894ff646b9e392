-- Flattened: closures of membership, of managers, of what is given, and of gates.
create table subject_of as
  with recursive closed(principal, subject) as (
    select principal, subject from has
    union select c.principal, n.outer_group from closed c join nested n on n.inner_group = c.subject)
  select * from closed;
create unique index on subject_of (principal, subject);
create unique index on subject_of (subject, principal);

create table reports as
  with recursive closed(boss, person) as (
    select id, id from principal
    union select m.boss, c.person from closed c join manager m on m.person = c.boss)
  select * from closed;
create unique index on reports (boss, person);
create unique index on reports (person, boss);

create table implied as
  with recursive closed(permission, implied) as (
    select id, id from permission
    union select c.permission, i.implied from closed c join implies i on i.permission = c.implied)
  select * from closed;

create table set_gives as
  with recursive closed(set, inner_set) as (
    select distinct set, set from set_permission union select set, set from includes
    union select c.set, i.inner_set from closed c join includes i on i.set = c.inner_set)
  select distinct c.set, p.permission, p.denies from closed c join set_permission p on p.set = c.inner_set;

create table role_gives as
  with recursive closed(role, junior, factor) as (
    select id, id, factor from role
    union select c.role, j.id, c.factor or j.factor
      from closed c join inherits i on i.role = c.junior join role j on j.id = i.junior)
  select distinct c.role, s.permission, s.denies, c.factor
    from closed c join role_set r on r.role = c.junior join set_gives s on s.set = r.set;

create table raw_gives as
  select g.id as given, r.permission, r.denies, r.factor from given g join role_gives r on r.role = g.role
  union select g.id, s.permission, s.denies, false from given g join set_gives s on s.set = g.set
  union select id, permission, denies, false from given where permission is not null;

create table gives as
  select given, permission, denies, bool_and(factor) as factor from (
    select g.given, i.implied as permission, false as denies, g.factor
      from raw_gives g join implied i on i.permission = g.permission where not g.denies
    union all
    select g.given, i.permission, true, false
      from raw_gives g join implied i on i.implied = g.permission where g.denies) each_way
  group by given, permission, denies;
create unique index on gives (given, permission, denies) include (factor);
create index on gives (permission, denies, given) include (factor);

create table above as
  with recursive closed(pos, up) as (
    select pos, pos from resource
    union all select c.pos, r.parent from closed c join resource r on r.pos = c.up where r.parent >= 0)
  select * from closed;
create unique index on above (pos, up);

-- By place and permission: each gate, and where it is asked for; null where there is no place.
create table gate_at as
  select r.pos, t.permission, g.gate, (
      select max(a.up) from above a join resource x on x.pos = a.up
        join type_of y on y.type = x.type and y.permission = g.gate
      where a.pos = r.pos and x.account = r.account) as gate_pos
  from resource r join type_of t on t.type = r.type
    join (select distinct i.permission, q.gate from implied i join requires q on q.permission = i.implied) g
      on g.permission = t.permission;
create index on gate_at (pos, permission);

alter table line add column span int4range;
update line set span = int4range(from_pos, to_pos);
create index on line (subject, from_pos);
create index on line using gist (span);
create index on resource (type, pos);
create index on own_unit (principal, unit);
create index on own_unit (unit, principal);

create view allowed as
  select s.principal, g.permission, r.pos, l.span
  from subject_of s
    join line l on l.subject = s.subject
    join resource r on r.pos >= l.from_pos and r.pos < l.to_pos
    join type_of t on t.type = r.type
    join gives g on g.given = l.given and g.permission = t.permission and not g.denies
    join permission p on p.id = t.permission
    join principal u on u.id = s.principal
  where r.live
    and (l.type is null or l.type = r.type)
    and (not g.factor or u.factor)
    and (not l.view_only or p.is_view)
    and (r.seal <= l.floor or l.crosses or l.own
      or ((l.own_account or l.own_unit) and r.seal <= r.account_pos))
    and (l.open or l.bridge_from is not null
      or exists (select from belongs b where b.principal = s.principal and b.account = r.account))
    and (l.bridge_from is null
      or exists (select from belongs b where b.principal = s.principal and b.account = l.bridge_from))
    and (not l.jit
      or exists (select from activated a where a.principal = s.principal and a.assignment = l.assignment))
    and (not l.own_account or r.account = u.account)
    and (not l.own or r.owner = s.principal)
    and (not l.team
      or exists (select from reports m where m.boss = s.principal and m.person = r.owner))
    and (not l.own_unit
      or exists (select from own_unit o
        where o.principal = s.principal and o.unit = r.unit and (o.in_full or p.is_view)));

create view denied as
  select s.principal, g.permission, r.pos, l.span
  from subject_of s
    join line l on l.subject = s.subject
    join resource r on r.pos >= l.from_pos and r.pos < l.to_pos
    join type_of t on t.type = r.type
    join gives g on g.given = l.given and g.permission = t.permission and g.denies
    join principal u on u.id = s.principal
  where not l.view_only
    and (l.type is null or l.type = r.type)
    and (l.bridge_from is null
      or exists (select from belongs b where b.principal = s.principal and b.account = l.bridge_from))
    and (not l.own_account or r.account = u.account)
    and (not l.own or r.owner = s.principal)
    and (not l.team
      or exists (select from reports m where m.boss = s.principal and m.person = r.owner))
    and (not l.own_unit
      or exists (select from own_unit o where o.principal = s.principal and o.unit = r.unit));
