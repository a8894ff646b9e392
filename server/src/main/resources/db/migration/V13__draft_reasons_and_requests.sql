-- Why a draft is made and under which number somebody asked for it; they stay with the revision.
alter table draft add column reason text, add column reference text;
alter table model_entry
  add column reason text,
  add column reference text,
  add column approved_by text[]; -- keys of those whose approval counted when it was applied

-- What root accounts ask for: a reason or a reference besides, or instead of, a second person.
alter table approval_policy alter column people drop not null;
alter table approval_policy
  add column reason boolean not null default false,
  add column reference boolean not null default false;

-- Who is asked to approve a draft. An answer is of exact content; an approval is in draft_approval.
create table draft_request (
  draft text not null references draft (id),
  approver text not null,
  asked_at timestamptz not null,
  reminded_at timestamptz,
  declined_content text,
  declined_because text,
  declined_at timestamptz,
  primary key (draft, approver)
);
create index request_to on draft_request (approver);
