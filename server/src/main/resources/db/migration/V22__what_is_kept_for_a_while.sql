-- What is old is looked for now and then, and deleted.
update sign_in_throttle set expires_at = extract(epoch from now() + interval '1 day') * 1000
  where expires_at is null;
create index sign_in_throttle_expires on sign_in_throttle (expires_at);
create index notice_at on notice (at);
create index told_once_at on told_once (at);
