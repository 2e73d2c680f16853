/* Suppressions compared with another organisation's without showing them. The secret, and whose elements are whose, go once it is over; the
   files are as they were sent, and tell nothing without a secret. */
create table comparison (
  id bigint generated always as identity primary key,
  name text not null check (length(name) between 1 and 100),
  actor_id text not null,
  created_at timestamptz not null,
  secret bytea,
  addresses bigint[],
  ours int,
  offer bytea,
  their_offer bytea,
  theirs int,
  answer bytea,
  their_answer bytea,
  shared bigint[],
  done_at timestamptz,
  failed text
);
grant select, insert, update, delete on comparison to arch_app;

-- down
drop table comparison;
