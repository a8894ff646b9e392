-- $1 principal
with granted as materialized (
    select permission, pos from allowed where principal = $1
    except
    select permission, pos from denied where principal = $1)
select count(*)
from granted g
where not exists (
  select from gate_at x
  where x.pos = g.pos and x.permission = g.permission
    and not exists (select from granted o where o.permission = x.gate and o.pos = x.gate_pos))
