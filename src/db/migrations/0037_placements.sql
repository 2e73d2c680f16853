-- Which kinds of changes put their record on a list: as a proposal, or as an edition in the name of whoever set it up.
create table list_placement (
  list_id bigint primary key references list on delete cascade,
  how text not null check (how in ('proposal', 'edition')),
  set_by text not null references "user",
  set_at timestamptz not null
);
create table list_placement_kind (
  list_id bigint not null references list_placement on delete cascade,
  kind_id bigint not null references change_kind,
  primary key (list_id, kind_id)
);
-- What became of each change of such a kind: a change is dealt with once for each list.
create table placed (
  list_id bigint not null references list on delete cascade,
  change_id bigint not null references change on delete cascade,
  outcome text not null check (outcome in ('on already', 'taken off before', 'proposed', 'put on')),
  proposal_id bigint references list_proposal on delete set null,
  at timestamptz not null,
  primary key (list_id, change_id)
);
create index on placed (proposal_id) where proposal_id is not null;
create index on placed (change_id);
grant select, insert, update, delete on list_placement, list_placement_kind to arch_app;
grant select, insert, update on placed to arch_app;

-- down
drop table placed, list_placement_kind, list_placement;
