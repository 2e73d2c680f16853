-- Opt-outs that came after a file had left must be carried to where it went: who did that, and when.
create table opt_out_carried (
  round_id bigint not null references round,
  person_id bigint not null references person,
  channel text not null,
  actor_id text not null,
  at timestamptz not null,
  primary key (round_id, person_id, channel)
);
grant select, insert on opt_out_carried to arch_app;

-- down
drop table opt_out_carried;
