-- Who ever wrote or changed a draft's content: none of them is its second person.
create table draft_author (
  draft text not null references draft (id),
  author text not null,
  primary key (draft, author)
);
insert into draft_author select id, owner from draft;
