-- Long work of people, with its progress and its result.
create table job (
  id            text primary key,
  owner         text not null,
  kind          text not null,
  title         text not null,
  details       text not null,
  viewer        text not null,
  seen_at       timestamptz,
  second_factor boolean not null,
  state         text not null check (state in ('waiting', 'running', 'done', 'failed', 'cancelled')),
  cancel_wanted boolean not null default false,
  done          bigint not null default 0,
  total         bigint,
  attempts      int not null default 0,
  begun_at      timestamptz not null,
  ended_at      timestamptz,
  fault         text,
  may_read      text,
  answer        text,
  file_name     text,
  media_type    text,
  bytes         bigint not null default 0
);
create index job_of_owner on job (owner, begun_at desc);
create index job_ended on job (ended_at) where ended_at is not null;

create table job_part (
  job  text not null references job (id) on delete cascade,
  part int not null,
  data bytea not null,
  primary key (job, part)
);

-- What waits to be done, as the scheduler library keeps it; one table for long work of people, one
-- for everything else, so that neither waits for the other.
create table work_queue (
  task_name            text not null,
  task_instance        text not null,
  task_data            bytea,
  execution_time       timestamptz not null,
  picked               boolean not null,
  picked_by            text,
  last_success         timestamptz,
  last_failure         timestamptz,
  consecutive_failures int,
  last_heartbeat       timestamptz,
  version              bigint not null,
  priority             smallint,
  primary key (task_name, task_instance)
);
create index work_queue_due on work_queue (execution_time);
create index work_queue_heartbeat on work_queue (last_heartbeat);
create table task_queue (like work_queue including all);

-- What recurs: how it went last.
create table recurring_work (
  name      text primary key,
  due_at    timestamptz not null,
  ran_at    timestamptz not null,
  outcome   text not null,
  remark    text
);
