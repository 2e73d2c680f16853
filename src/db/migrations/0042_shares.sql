-- How the contacts of a released round are shared out among colleagues: by whom and how, a channel, and who has whom.
create table round_sharing (
  round_id bigint not null references round,
  channel text not null check (channel in ('email', 'phone', 'post', 'direct')),
  how jsonb not null,
  shared_by text not null references "user",
  shared_at timestamptz not null,
  primary key (round_id, channel)
);
create table round_share (
  round_id bigint not null,
  channel text not null,
  person_id bigint not null references person,
  user_id text not null references "user",
  because text not null check (because in ('knows', 'had', 'organisation', 'share')),
  primary key (round_id, channel, person_id),
  foreign key (round_id, channel) references round_sharing on delete cascade
);
create index on round_share (user_id, round_id);
create index on round_share (person_id);
grant select, insert, update, delete on round_sharing, round_share to arch_app;

-- down
drop table round_share, round_sharing;
