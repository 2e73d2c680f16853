-- Fit checks: people drawn at random from those who are clear in a round that is being built, looked at one by one.
create table fit_check (
  id bigint generated always as identity primary key,
  round_id bigint not null references round,
  list_id bigint not null references list,
  number int not null,
  -- Chosen before the first of them is seen: the wanted share, how sure, and how many.
  plan jsonb not null,
  seed int not null,
  edition_id bigint not null references edition,
  -- What decided who was clear then; another print is another list.
  basis text not null,
  -- Where they come from, by the ids of the lines of the edition, with how many there were.
  strata jsonb not null,
  drawn_at timestamptz not null,
  drawn_by text not null references "user",
  ended_at timestamptz,
  ended_by text references "user",
  outcome text check (outcome in ('passes', 'fails', 'open')),
  unique (round_id, number)
);
-- One at a time.
create unique index on fit_check (round_id) where ended_at is null;
create table fit_sample (
  check_id bigint not null references fit_check,
  place int not null,
  person_id bigint not null references person,
  stratum int not null,
  primary key (check_id, place),
  unique (check_id, person_id)
);
create index on fit_sample (person_id);
-- What somebody said of a person as one of a list. It holds for later checks of the list as long as the facts it rested on are the same.
create table fit_verdict (
  id bigint generated always as identity primary key,
  check_id bigint not null references fit_check,
  list_id bigint not null references list,
  person_id bigint not null references person,
  by_id text not null references "user",
  verdict text not null check (verdict in ('fits', 'does not', 'cannot tell')),
  reason text check (reason in ('role', 'organisation', 'level', 'place', 'known to us', 'other')),
  note text check (length(note) <= 400),
  -- How they stood to us, where the verdict set that, and what it set: taken back, it is as it was.
  relation_was text,
  relation_set text,
  -- The HMAC of what was known of the person.
  facts bytea not null,
  at timestamptz not null,
  taken_back_at timestamptz,
  check ((verdict = 'does not') = (reason is not null))
);
create unique index on fit_verdict (check_id, person_id, by_id) where taken_back_at is null;
create index on fit_verdict (list_id, person_id) where taken_back_at is null;
grant select, insert, update on fit_check, fit_verdict to arch_app;
grant select, insert on fit_sample to arch_app;

-- down
drop table fit_verdict, fit_sample, fit_check;
