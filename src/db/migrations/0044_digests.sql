-- Who wants what is their move by email each morning, and which mornings they got it: once a day at most, decided before it is sent.
create table digest (
  user_id text primary key references "user" on delete cascade,
  wanted_at timestamptz not null
);
create table digest_sent (
  user_id text not null references "user" on delete cascade,
  day date not null,
  message_id uuid not null default gen_random_uuid(),
  sent_at timestamptz,
  primary key (user_id, day)
);
grant select, insert, delete on digest to arch_app;
grant select, insert, update, delete on digest_sent to arch_app;

-- down
drop table digest_sent, digest;
