-- What becomes of decisions, and what was reported of a round.
alter table review_round add column reminded_at timestamptz; -- reviewers, before the end
alter table review_round add column late_since timestamptz;  -- since its end, until it closes
alter table review_round add column carried_at timestamptz;  -- when decisions were carried out last
alter table review_round add column exposure_before bigint;  -- of whose access it asks about
alter table review_round add column exposure_after bigint;
alter table review_round add column signed_by text;
alter table review_round add column signed_at timestamptz;

alter table review_item add column expected bigint;      -- rights that the decision takes, when made
alter table review_item add column outcome text
  check (outcome in ('waiting', 'in-force', 'answered')); -- null where nothing is to be done, or yet
alter table review_item add column draft text;           -- that carries it out
alter table review_item add column applied text;         -- JSON: its changes in that draft
alter table review_item add column revision bigint;      -- in which it took effect
alter table review_item add column remark text;          -- why it came back, or who answers how
alter table review_item add column settled_at timestamptz;
alter table review_item add column returned int not null default 0; -- how often it came back
create index review_item_unsettled on review_item (round, number)
  where state = 'done' and verdict <> 'keep' and outcome is null;
create index review_item_of_somebody on review_item (about, about_kind, round);
create index review_item_revision on review_item (revision) where revision is not null;
create index review_item_draft on review_item (draft) where draft is not null;

-- Reports of rounds that closed, as they were written; their hashes are in the trail.
create table review_report (
  round   bigint not null references review_round on delete cascade,
  signed  boolean not null,
  form    text not null check (form in ('json', 'xlsx', 'pdf')),
  content bytea not null,
  sha256  text not null,
  named   text[] not null, -- keys of the people whom it names
  made_at timestamptz not null,
  primary key (round, signed, form)
);
