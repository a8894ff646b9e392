-- Review rounds: what is asked, by whom it is run, until when.
create table review_round (
  number     bigint generated always as identity primary key,
  title      text not null,
  what       text not null,        -- JSON: the order
  owner      text not null,        -- who runs it, with whose rights it was made
  state      text not null check (state in ('planned', 'making', 'open', 'closed', 'cancelled')),
  begins     timestamptz not null,
  ends       timestamptz not null,
  made_at    timestamptz not null,
  revision   bigint,               -- on which its items are; null before they are found
  cause      text,                 -- rule or round that made it
  reason     text,                 -- why it was cancelled
  ended_at   timestamptz,
  held_up    text                  -- why it waits for its owner
);
create index review_round_of on review_round (state, begins);

-- What a round asks about: things that can be removed, as they were found.
create table review_item (
  round       bigint not null references review_round on delete cascade,
  number      int not null,
  id          text not null,
  item        text not null,       -- JSON
  about_kind  text not null,
  about       text not null,       -- key of whose access it is
  account     text,
  facts       text not null,       -- digest: another means that it changed
  risk        text,                -- null where it gives no permission
  takes       bigint,              -- rights, when it was found; null where several people's
  exposure    bigint not null,
  recommended text,
  control     boolean not null,    -- known to be wrong, and not in the model
  stage       int not null,
  decider     text,                -- null where there is none
  chosen_by   text,                -- what makes them the decider
  instead_of  text,                -- whose deputy they are
  later       text[] not null,     -- deciders of later stages; empty words where there is none
  conflict    text check (conflict in ('gave', 'each-other')),
  state       text not null check (state in ('open', 'decided', 'done', 'gone')),
  changed     boolean not null,    -- since it was found, or decided
  verdict     text check (verdict in ('keep', 'reduce', 'remove')),
  reason      text,
  changes     text,                -- JSON: what reduces it
  with_items  text[],              -- ids of what goes with it
  decided_by  text,
  decided_at  timestamptz,
  primary key (round, number),
  unique (round, id)
);
create index review_item_of on review_item (decider, state, round);
create index review_item_about on review_item (round, about, number);
create index review_item_decided on review_item (round, decided_by, decided_at);
create index review_item_id on review_item (id);

-- What was done with items, and said of them; nothing of it is changed.
create table review_act (
  number  bigint generated always as identity primary key,
  round   bigint not null,
  item    int not null,
  act     text not null,           -- decided, undone, passed, asked, answered, commented, counted …
  who     text,
  at      timestamptz not null,
  verdict text,
  said    text,
  whom    text,
  foreign key (round, item) references review_item on delete cascade
);
create index review_act_of on review_act (round, item, number);
create index review_act_asked on review_act (whom) where act = 'asked';

-- Answers for expectations that decisions break.
create table review_answer (
  round       bigint not null references review_round on delete cascade,
  who         text not null,
  expectation text not null,
  said        text not null,
  at          timestamptz not null,
  primary key (round, who, expectation)
);

-- Who decides for somebody who is absent.
create table review_deputy (
  person text primary key,
  deputy text not null,
  begins timestamptz not null,
  ends   timestamptz not null
);
