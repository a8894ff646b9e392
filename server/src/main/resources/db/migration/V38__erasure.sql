-- Erasures of somebody's personal facts. The key that stands for them is in the trail; theirs is kept
-- until it is done.
create table erasure (
  erased     text primary key,
  principal  text,
  account    text not null, -- their home
  ordered_by text not null,
  ordered_at timestamptz not null,
  reason     text not null,
  signature  text -- of its parts, by the key of the trail; null until it is done
);
create unique index erasure_of on erasure (principal);

-- What a line, a revision or a full copy is since an erasure.
create table erased_part (
  erased text not null references erasure,
  part   text not null check (part in ('line', 'revision', 'copy')),
  number bigint not null,
  digest text not null,
  primary key (erased, part, number)
);

create index trail_erased on trail (seq) where act = 'erased';
