-- Rules that make a small round by themselves when something happens.
create table review_rule (
  number   bigint generated always as identity primary key,
  what     text not null,          -- JSON: the event, whom it asks
  owner    text not null,          -- with whose rights its rounds are made
  made_at  timestamptz not null,
  seen     bigint not null,        -- the revision up to which it has looked
  ended_at timestamptz,
  held_up  text                    -- why it waits for its owner
);

alter table review_round add column rule bigint references review_rule;
create index review_round_rule on review_round (rule) where rule is not null;
