-- $1 principal, $2 permission, $3 position
select case
  when exists (select from denied where principal = $1 and permission = $2 and pos = $3) then 'DENIED'
  when not exists (select from allowed where principal = $1 and permission = $2 and pos = $3) then 'NONE'
  when exists (
    select from gate_at g
    where g.pos = $3 and g.permission = $2
      and (exists (select from denied d where d.principal = $1 and d.permission = g.gate and d.pos = g.gate_pos)
        or not exists (select from allowed a where a.principal = $1 and a.permission = g.gate and a.pos = g.gate_pos)))
  then 'BLOCKED' else 'ALLOWED' end
