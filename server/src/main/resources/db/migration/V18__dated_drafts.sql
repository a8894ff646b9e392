-- When a draft is to be applied by itself, exactly what, and why it was not.
alter table draft
  add column due_at timestamptz,
  add column due_content text,
  add column due_fault text;
create index draft_due on draft (due_at) where due_at is not null;
