-- By which rule a line's hash is made; of a revision, digests of its entry and of the model after it.
alter table trail add column rule integer not null default 1;
alter table trail add column entry_digest text;
alter table trail add column model_digest text;
