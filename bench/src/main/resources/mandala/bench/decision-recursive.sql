-- $1 principal, $2 permission, $3 position; nothing flattened: groups, the places above, what is
-- implied and what roles and sets come to are walked when asked. Without gates and denies, which
-- only make it slower: whether it is allowed.
with recursive mine(subject) as (
    select subject from has where principal = $1
    union select n.outer_group from mine m join nested n on n.inner_group = m.subject),
  wanted(permission) as (
    select $2
    union select i.permission from wanted w join implies i on i.implied = w.permission),
  sets(set) as (
    select s.set from set_permission s join wanted w on w.permission = s.permission where not s.denies
    union select i.set from sets s join includes i on i.inner_set = s.set),
  roles(role, factor) as (
    select r.id, r.factor from role r join role_set rs on rs.role = r.id join sets s on s.set = rs.set
    union select r.id, x.factor or r.factor
      from roles x join inherits i on i.junior = x.role join role r on r.id = i.role)
select exists (
  select from mine s
    join line l on l.subject = s.subject
    join resource r on r.pos >= l.from_pos and r.pos < l.to_pos
    join type_of t on t.type = r.type and t.permission = $2
    join permission p on p.id = $2
    join principal u on u.id = $1
    join given g on g.id = l.given
  where r.pos = $3 and r.live
    and (exists (select from roles x where x.role = g.role and (not x.factor or u.factor))
      or g.set in (select set from sets)
      or (g.permission in (select permission from wanted) and not g.denies))
    and (l.type is null or l.type = r.type)
    and (not l.view_only or p.is_view)
    and (r.seal <= l.floor or l.crosses or l.own
      or ((l.own_account or l.own_unit) and r.seal <= r.account_pos))
    and (l.open or l.bridge_from is not null
      or exists (select from belongs b where b.principal = $1 and b.account = r.account))
    and (l.bridge_from is null
      or exists (select from belongs b where b.principal = $1 and b.account = l.bridge_from))
    and (not l.jit
      or exists (select from activated a where a.principal = $1 and a.assignment = l.assignment))
    and (not l.own_account or r.account = u.account)
    and (not l.own or r.owner = $1)
    and (not l.team or exists (
      with recursive up(person) as (
        select r.owner union select m.boss from up join manager m on m.person = up.person)
      select from up where person = $1))
    and (not l.own_unit
      or exists (select from own_unit o
        where o.principal = $1 and o.unit = r.unit and (o.in_full or p.is_view))))
