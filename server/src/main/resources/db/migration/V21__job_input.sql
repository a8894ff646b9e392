-- What a job was given to work on, until it ends.
create table job_input (
  job  text not null references job (id) on delete cascade,
  part int not null,
  data bytea not null,
  primary key (job, part)
);
