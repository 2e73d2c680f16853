-- Rounds of premises: letters to whoever lives or works there, or to their owners.
alter table round add letters jsonb;

-- What is heard of a letter to premises is an entry of its own kind: a contact is of a person.
alter table entry drop constraint entry_kind_check;
alter table entry add constraint entry_kind_check check (kind in
  ('created', 'change', 'contact', 'note', 'suppressed', 'lifted', 'listed', 'unlisted', 'released', 'not worked', 'reversed', 'let through', 'withdrawn', 'merged', 'parted', 'exported', 'erased', 'reported', 'introduction', 'letter')) not valid;
alter table entry validate constraint entry_kind_check;

create table round_letter (
  round_id bigint not null references round,
  number int not null check (number > 0),
  addressee text not null,
  street text, town text, postcode text, country text,
  -- The keys of the address it goes to, by which suppressions find it.
  keys bytea[] not null,
  -- Whom it names, of the directory.
  people bigint[] not null default '{}',
  organisation_id bigint references organisation,
  -- The premises it names, in words.
  about text not null,
  posted_on date,
  posted_by text references "user" on delete set null,
  -- The entries that its posting wrote, so that it can be taken back.
  entries bigint[] not null default '{}',
  outcome text check (outcome in ('stopped', 'came back', 'answered', 'asked us to stop')),
  outcome_at timestamptz,
  outcome_entries bigint[] not null default '{}',
  primary key (round_id, number),
  check (outcome = 'stopped' or outcome is null or posted_on is not null)
);
create index on round_letter using gin (keys);
create index on round_letter using gin (people);
create table round_premises (
  round_id bigint not null references round,
  premises_id bigint not null references premises,
  name text not null,
  letter int,
  held_by text,
  reason text,
  detail text,
  primary key (round_id, premises_id),
  foreign key (round_id, letter) references round_letter,
  check ((letter is null) = (held_by is not null))
);
create index on round_premises (premises_id);
create index on round_premises (round_id, letter);
create trigger refuse_late after insert on round_letter referencing new table as fresh for each statement execute function refuse_late();
create trigger refuse_late after insert on round_premises referencing new table as fresh for each statement execute function refuse_late();
-- Whoever works with it records what became of a letter; to whom it went stays.
create function refuse_other_letter() returns trigger language plpgsql as $$
begin
  if current_user = 'arch_app' and (to_jsonb(new) - '{posted_on,posted_by,entries,outcome,outcome_at,outcome_entries}'::text[]) is distinct from (to_jsonb(old) - '{posted_on,posted_by,entries,outcome,outcome_at,outcome_entries}'::text[]) then
    raise exception 'letter % of round % is released and frozen', old.number, old.round_id using errcode = 'restrict_violation';
  end if;
  return new;
end $$;
create trigger refuse_other_letter before update on round_letter for each row execute function refuse_other_letter();
grant select, insert on round_premises to arch_app;
grant select, insert, update (posted_on, posted_by, entries, outcome, outcome_at, outcome_entries) on round_letter to arch_app;

-- Whoever a letter names is a contact to come of its round, too.
do $$
begin
  execute replace(pg_get_functiondef('check_frozen'::regproc), 'c.channel = f.channel and c.closed_by is null) limit 1;',
    'c.channel = f.channel and c.closed_by is null)
          and not exists (select 1 from round_letter w where w.round_id = f.round_id and f.channel = ''post'' and f.person_id = any(w.people)) limit 1;');
end $$;

-- An erasure takes whom a letter named out of it, and its file with it.
do $$
begin
  execute replace(pg_get_functiondef('erase_person'::regproc), '  -- Premises they own are told apart',
    '  with named as (
    update round_letter set addressee = ''Erased person'', street = null, town = null, postcode = null, country = null,
      about = case when pattern = '''' then about else without_words(about, pattern) end
      where people && whole or (pattern <> '''' and addressee ~* pattern)
    returning round_id)
  update round_file f set bytes = '''', withdrawn_at = now() where f.withdrawn_at is null and f.round_id in (select round_id from named);
  if pattern <> '''' then
    update round_letter set about = without_words(about, pattern) where about ~* pattern;
    update round_premises set name = without_words(name, pattern) where name ~* pattern;
  end if;

  -- Premises they own are told apart');
end $$;

-- down
do $$
begin
  execute regexp_replace(pg_get_functiondef('check_frozen'::regproc), '\s+and not exists \(select 1 from round_letter[^;]*\) limit 1;', ' limit 1;');
  execute regexp_replace(pg_get_functiondef('erase_person'::regproc), '  with named as \(\s*update round_letter.*  -- Premises they own are told apart', '  -- Premises they own are told apart');
end $$;
drop table round_premises, round_letter;
drop function refuse_other_letter();
alter table round drop column letters;
alter table entry drop constraint entry_kind_check;
alter table entry add constraint entry_kind_check check (kind in
  ('created', 'change', 'contact', 'note', 'suppressed', 'lifted', 'listed', 'unlisted', 'released', 'not worked', 'reversed', 'let through', 'withdrawn', 'merged', 'parted', 'exported', 'erased', 'reported', 'introduction')) not valid;
