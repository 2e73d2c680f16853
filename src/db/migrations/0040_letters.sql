-- The letter of a list: what its rounds say by email. The fields in it are filled in for everybody who gets it.
create table letter (
  list_id bigint primary key references list on delete cascade,
  subject text not null,
  body text not null,
  sender_name text not null,
  sender_email text not null,
  -- The sender's postal address, which stands in every message.
  address text not null,
  written_by text not null references "user",
  written_at timestamptz not null
);

-- The emails of a released round: the letter as it was when they began to leave, and how far they are.
create table mail_run (
  id bigint generated always as identity primary key,
  round_id bigint not null unique references round,
  subject text not null,
  body text not null,
  sender_name text not null,
  sender_email text not null,
  address text not null,
  per_minute int not null check (per_minute between 1 and 100000),
  state text not null check (state in ('running', 'paused', 'done', 'failed')),
  note text,
  begun_by text not null references "user",
  begun_at timestamptz not null,
  ended_at timestamptz
);

/* One message each. Its id is decided before it leaves, so that the mail service can be asked whether it has it; *handed over* is written before
   the service gets it. What a service says is kept as its code alone, since its words may name addresses. */
create table mail_message (
  run_id bigint not null references mail_run,
  person_id bigint not null references person,
  message_id uuid not null unique default gen_random_uuid(),
  state text not null default 'waiting' check (state in ('waiting', 'handed over', 'accepted', 'refused', 'given up', 'left out')),
  why text check (why in ('suppressed', 'ended', 'no longer there', 'merged')),
  code text,
  tries int not null default 0,
  not_before timestamptz,
  at timestamptz,
  primary key (run_id, person_id)
);
create index on mail_message (run_id, not_before nulls first, person_id) where state in ('waiting', 'handed over');
create index on mail_message (person_id);

-- As measure_rounds(): no statistics know a run that was just begun.
create function measure_mail() returns void language plpgsql security definer set search_path = public, pg_temp as $$
begin
  analyze mail_message;
end $$;
revoke all on function measure_mail() from public;
grant execute on function measure_mail() to arch_app;
grant select, insert, update, delete on letter to arch_app;
grant select, insert, update on mail_run, mail_message to arch_app;

-- An erasure takes the words that name somebody out of letters, too.
do $$
begin
  execute replace(pg_get_functiondef('erase_person'::regproc), '    update policy_edition set why',
    '    update letter set subject = without_words(subject, pattern), body = without_words(body, pattern) where subject ~* pattern or body ~* pattern;
    update mail_run set subject = without_words(subject, pattern), body = without_words(body, pattern) where subject ~* pattern or body ~* pattern;
    update policy_edition set why');
end $$;

-- down
do $$
begin
  execute replace(pg_get_functiondef('erase_person'::regproc),
    '    update letter set subject = without_words(subject, pattern), body = without_words(body, pattern) where subject ~* pattern or body ~* pattern;
    update mail_run set subject = without_words(subject, pattern), body = without_words(body, pattern) where subject ~* pattern or body ~* pattern;
', '');
end $$;
drop function measure_mail();
drop table mail_message, mail_run, letter;
