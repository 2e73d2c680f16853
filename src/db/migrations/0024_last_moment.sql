-- Contacts to come that a later suppression stopped: they are not made any more, and their round says so.
alter table contact_to_come add stopped_by bigint references suppression;
create index on contact_to_come (round_id) where stopped_by is not null;
-- Who took which file of a round, when, and without whom: a suppression that comes later names the files that left.
create table round_file_taken (
  id bigint generated always as identity primary key,
  round_id bigint not null,
  channel text not null,
  actor_id text not null,
  at timestamptz not null,
  without bigint[] not null default '{}',
  foreign key (round_id, channel) references round_file (round_id, channel)
);
create index on round_file_taken (round_id, channel);
grant select, insert on round_file_taken to arch_app;

-- down
drop table round_file_taken;
alter table contact_to_come drop column stopped_by;
