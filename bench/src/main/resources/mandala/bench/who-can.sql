-- $1 permission, $2 position
with asked(permission, pos) as (
    select $1, $2 union all select gate, gate_pos from gate_at where pos = $2 and permission = $1),
  granted as (
    select a.permission, w.principal
    from asked a cross join lateral (
      select principal from allowed where permission = a.permission and pos = a.pos and span @> a.pos
      except
      select principal from denied where permission = a.permission and pos = a.pos and span @> a.pos) w)
select g.principal
from granted g join principal u on u.id = g.principal and u.active
group by g.principal
having count(*) = (select count(*) from asked)
