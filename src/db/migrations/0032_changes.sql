-- Changes: dated facts about records, read off the ledger. The ledger holds every report; `change` only points at entries, so that
-- nothing personal is stored twice and an erasure takes the words of changes with those of the entries.
alter table entry drop constraint entry_kind_check;
alter table entry add constraint entry_kind_check check (kind in
  ('created', 'change', 'contact', 'note', 'suppressed', 'lifted', 'listed', 'unlisted', 'released', 'not worked', 'reversed', 'let through', 'withdrawn', 'merged', 'parted', 'exported', 'erased', 'reported')) not valid;
alter table entry validate constraint entry_kind_check;

-- What kinds of changes there are, what each asks of us and for how many days it stays useful: data of the team.
create table change_kind (
  id bigint generated always as identity primary key,
  -- The kinds the product finds by itself are known by a word; a team's own have none.
  key text unique,
  name text not null check (length(btrim(name)) between 1 and 60),
  asks text not null check (asks in ('confirm', 'answer', 'reconsider', 'opening')),
  fresh_days int check (fresh_days between 1 and 3650),
  -- A first sentence: {when} stands for what is proved of its day, {before} and {after} for the values.
  opener text check (length(opener) <= 400),
  archived_at timestamptz
);
create unique index on change_kind (lower(btrim(name))) where archived_at is null;
insert into change_kind (key, name, asks, fresh_days, opener) values
  ('left', 'Left the organisation', 'confirm', 90, null),
  ('role', 'Another role', 'confirm', 90, 'You have taken on a new role {when}.'),
  ('organisation', 'Another organisation', 'confirm', 90, 'You have joined a new organisation {when}.'),
  ('address failed', 'An address failed', 'confirm', 30, null),
  ('disagree', 'Sources disagree', 'confirm', 60, null),
  ('asked', 'Asked us something', 'answer', 7, 'Thank you for your question {when}.'),
  ('replied', 'Replied', 'answer', 7, null),
  ('form', 'Filled in a form', 'answer', 7, 'Thank you for writing to us {when}.'),
  ('complained', 'Complained', 'answer', 7, null),
  ('event', 'Came to an event', 'answer', 21, 'It was good to meet you {when}.'),
  ('detail', 'A detail changed', 'reconsider', 60, null),
  ('customer', 'Became a customer', 'reconsider', 90, null),
  ('hands', 'Premises changed hands', 'reconsider', 180, 'The building has been yours {when}.'),
  ('roof', 'Roof renewed or measured', 'reconsider', 180, null),
  ('for sale', 'Listed for sale', 'reconsider', 90, null),
  ('permit', 'Permit published', 'opening', 60, 'A permit for your building was published {when}.'),
  ('tender', 'Tender published', 'opening', 30, 'Your tender was published {when}.'),
  ('storm', 'Storm damage', 'opening', 30, 'We hear that your roof was damaged {when}.'),
  ('building work', 'Building work', 'opening', 120, 'We see that you are building {when}.'),
  ('hiring', 'Taking people on', 'opening', 60, 'You have been taking people on {when}.'),
  ('money raised', 'Raised money', 'opening', 120, 'You raised money for new work {when}.'),
  ('wrote', 'Wrote or spoke in public', 'opening', 30, 'I read what you said {when}.'),
  ('passed on', 'Passed something on', 'opening', 14, null);

-- What only a report has: an entry of kind "reported" says that something was told, and changes nothing by itself.
create table report (
  entry_id bigint primary key references entry,
  -- What happened; none where a field is reported, which the entry names.
  kind_id bigint references change_kind,
  seen_on date not null,
  stated boolean not null,
  source text not null check (length(source) between 1 and 120),
  -- Two reports that share one of these tell of the same: HMACs of the source's own id, and of the link or the text on the day.
  same bytea[] not null default '{}'
);
create index on report (kind_id);

create table change (
  id bigint generated always as identity primary key,
  person_id bigint references person,
  organisation_id bigint references organisation,
  premises_id bigint references premises,
  kind_id bigint not null references change_kind,
  -- Of a field's change: which field, and where its value before stands.
  field text,
  from_entry bigint references entry,
  -- The first report; the value after, or the words and the link, stand there.
  entry_id bigint not null references entry,
  reports bigint[] not null,
  sources int not null check (sources > 0),
  after_day date,
  by_day date not null,
  sure text not null check (sure in ('stated', 'likely', 'to be confirmed')),
  learned_at timestamptz not null,
  -- Since when it counts no more, and why: its record was merged, erased or withdrawn, its reports undone, or reports tell it otherwise.
  gone_at timestamptz,
  gone_why text,
  state text not null default 'open' check (state in ('open', 'taken', 'handled', 'set aside')),
  state_by text references "user",
  state_at timestamptz,
  -- When lists were asked whom it concerns.
  told_at timestamptz,
  check (num_nonnulls(person_id, organisation_id, premises_id) = 1),
  check (after_day is null or after_day < by_day)
);
create index on change (person_id) where person_id is not null;
create index on change (organisation_id) where organisation_id is not null;
create index on change (premises_id) where premises_id is not null;
create index on change (learned_at);
create index on change (id) where told_at is null;

-- What became of a change, act by act.
create table change_act (
  id bigint generated always as identity primary key,
  change_id bigint not null references change,
  act text not null check (act in ('take', 'let go', 'handle', 'set aside', 'reopen')),
  actor_id text not null references "user",
  at timestamptz not null
);
create index on change_act (change_id);
-- What confirming a change wrote, so that it can be taken back whole.
create table change_decision (
  id bigint generated always as identity primary key,
  change_id bigint not null references change,
  actor_id text not null references "user",
  at timestamptz not null,
  entries bigint[] not null,
  suppressions bigint[] not null,
  undone_at timestamptz
);
create index on change_decision (change_id);
-- What each colleague keeps for themselves.
create table change_mine (
  change_id bigint not null references change,
  user_id text not null references "user" on delete cascade,
  put_off_until date,
  put_off_at timestamptz,
  primary key (change_id, user_id)
);

-- Who follows what. Lists that somebody may see are followed unless they say otherwise.
create table follow (
  id bigint generated always as identity primary key,
  user_id text not null references "user" on delete cascade,
  list_id bigint references list on delete cascade,
  person_id bigint references person,
  organisation_id bigint references organisation,
  premises_id bigint references premises,
  following boolean not null default true,
  since timestamptz not null,
  reach_days int not null check (reach_days between 0 and 3650),
  check (num_nonnulls(list_id, person_id, organisation_id, premises_id) = 1)
);
create unique index on follow (user_id, list_id) where list_id is not null;
create unique index on follow (user_id, person_id) where person_id is not null;
create unique index on follow (user_id, organisation_id) where organisation_id is not null;
create unique index on follow (user_id, premises_id) where premises_id is not null;
create table muted_kind (
  user_id text not null references "user" on delete cascade,
  kind_id bigint not null references change_kind,
  primary key (user_id, kind_id)
);
-- Where somebody's account of changes opens: what was unhandled for them when they last looked, as packed ids.
create table change_look (
  user_id text primary key references "user" on delete cascade,
  at timestamptz not null,
  unhandled bytea not null,
  reach_days int not null default 30 check (reach_days between 0 and 3650)
);
alter table list add only_follow boolean not null default false;

-- Who was on a list when its changes were last told, as packed ids; and which changes concern which list.
create table standing (
  list_id bigint primary key references list on delete cascade,
  at timestamptz not null,
  -- Another edition is no change of anybody: who joins or leaves by it is not told as moved.
  edition int not null,
  members bytea not null
);
create table told (
  list_id bigint not null references list on delete cascade,
  change_id bigint not null references change,
  before boolean not null,
  after boolean not null,
  -- Whether it brought somebody on the list or off it.
  moved boolean not null,
  -- When we learned of the change, beside the list: an account reads what came lately and not all there ever was.
  learned_at timestamptz not null,
  primary key (list_id, change_id),
  check (before or after)
);
create index on told (change_id);
create index on told (list_id, learned_at) include (change_id, moved);

-- Records whose changes must be read anew: written with the entries, whoever writes them.
create table change_due (
  id bigint generated always as identity primary key,
  person_id bigint, organisation_id bigint, premises_id bigint
);
create function mark_changes_due() returns trigger language plpgsql security definer set search_path = public, pg_temp as $$
begin
  insert into change_due (person_id, organisation_id, premises_id)
  select distinct person_id, organisation_id, premises_id from fresh
  where kind in ('change', 'reported', 'contact', 'suppressed', 'reversed', 'withdrawn', 'merged', 'parted', 'erased')
    and num_nonnulls(person_id, organisation_id, premises_id) > 0;
  return null;
end $$;
create trigger mark_changes_due after insert on entry referencing new table as fresh for each statement execute function mark_changes_due();
-- Rows that say what is known already write no entry, and yet are another source of a change.
create function mark_confirmed_due() returns trigger language plpgsql security definer set search_path = public, pg_temp as $$
begin
  insert into change_due (person_id)
  select distinct c.person_id from batch_row r join change c on c.person_id = r.person_id
  where r.batch_id = new.id and r.outcome = 'same' and c.field in ('role', 'organisation');
  return null;
end $$;
create trigger mark_confirmed_due after update of state on batch for each row when (new.state in ('done', 'undone') and old.state <> new.state)
  execute function mark_confirmed_due();
insert into change_due (person_id, organisation_id, premises_id)
  select distinct person_id, organisation_id, premises_id from entry
  where kind in ('change', 'contact', 'suppressed') and num_nonnulls(person_id, organisation_id, premises_id) > 0;

-- An outside feed: how far it was read, and what became of each of its items. Of what is about nobody here only its number is kept.
create table feed (
  name text primary key,
  cursor text,
  asked_at timestamptz,
  read_at timestamptz,
  error text
);
create table feed_item (
  feed text not null references feed,
  -- The HMAC of the item's number and of what it says: the same item that comes again is known.
  key bytea not null,
  outcome text not null check (outcome in ('reported', 'nobody here', 'in doubt', 'refused')),
  why text,
  entry_id bigint references entry,
  at timestamptz not null,
  primary key (feed, key)
);
create index on feed_item (feed, outcome);
grant select, insert, update on feed to arch_app;
grant select, insert on feed_item to arch_app;

-- The engine holds changes beside their records, so it reads a record anew when one of its changes is another.
create trigger mark_person_new after insert on change referencing new table as fresh for each statement execute function mark_change('person', 'person_id');
create trigger mark_person after update on change referencing new table as fresh for each statement execute function mark_change('person', 'person_id');
create trigger mark_organisation_new after insert on change referencing new table as fresh for each statement execute function mark_change('organisation', 'organisation_id');
create trigger mark_organisation after update on change referencing new table as fresh for each statement execute function mark_change('organisation', 'organisation_id');
create trigger mark_premises_new after insert on change referencing new table as fresh for each statement execute function mark_change('premises', 'premises_id');
create trigger mark_premises after update on change referencing new table as fresh for each statement execute function mark_change('premises', 'premises_id');
create function mark_kinds() returns trigger language plpgsql security definer set search_path = public, pg_temp as $$
begin
  insert into change_log (what, ids) values ('person', null);
  perform pg_notify('arch_change', '');
  return null;
end $$;
-- What a kind asks is held beside each of its changes.
create trigger mark_kinds after update of asks on change_kind for each row when (old.asks is distinct from new.asks) execute function mark_kinds();

grant select, insert, update on change_kind, change, change_mine, follow, change_look, standing, told to arch_app;
grant select, insert on report, change_act to arch_app;
grant select, insert, update on change_decision to arch_app;
grant select, insert, delete on muted_kind to arch_app;
grant select, delete on change_due to arch_app;
grant delete on change_mine, follow, told to arch_app;

-- down
drop trigger mark_changes_due on entry;
drop trigger mark_confirmed_due on batch;
drop function mark_changes_due();
drop function mark_confirmed_due();
drop trigger mark_kinds on change_kind;
drop function mark_kinds();
drop table feed_item, feed, change_due, told, standing;
alter table list drop column only_follow;
drop table change_look, muted_kind, follow, change_mine, change_decision, change_act, change, report, change_kind;
alter table entry drop constraint entry_kind_check;
alter table entry add constraint entry_kind_check check (kind in
  ('created', 'change', 'contact', 'note', 'suppressed', 'lifted', 'listed', 'unlisted', 'released', 'not worked', 'reversed', 'let through', 'withdrawn', 'merged', 'parted', 'exported', 'erased')) not valid;
