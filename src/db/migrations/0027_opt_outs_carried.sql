-- Opt-outs that came after a file had left must be carried to where it went: who did that, and when.
create table opt_out_carried (
  id bigint generated always as identity primary key,
  round_id bigint not null references round,
  person_id bigint not null references person,
  channel text not null,
  actor_id text not null,
  at timestamptz not null,
  back_at timestamptz,
  back_by text
);
-- What was taken back stays, and may be said again.
create unique index opt_out_carried_once on opt_out_carried (round_id, person_id, channel) where back_at is null;
grant select, insert on opt_out_carried to arch_app;
grant update (back_at, back_by) on opt_out_carried to arch_app;

-- down
drop table opt_out_carried;
