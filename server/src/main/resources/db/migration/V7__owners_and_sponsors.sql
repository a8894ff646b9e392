-- Who answers for roles, patterns, services and guests.
alter table role add column owners text[] not null default '{}';
alter table pattern add column owners text[] not null default '{}';
alter table principal add column sponsor text;
alter table guest add column sponsor text;
