-- Somebody is lent to another account; at the end of that time they come back.
alter table planned_act drop constraint planned_act_act_check;
alter table planned_act add constraint planned_act_act_check
  check (act in ('move', 'grace', 'part', 'loan'));
