-- Erasure on request: what is known of one person goes everywhere, their suppressions stay as keys, and counts of rounds still add up.
alter table person drop constraint person_state_check;
alter table person add constraint person_state_check check (state in ('live', 'withdrawn', 'merged', 'erased'));
alter table entry drop constraint entry_kind_check;
alter table entry add constraint entry_kind_check check (kind in
  ('created', 'change', 'contact', 'note', 'suppressed', 'lifted', 'listed', 'unlisted', 'released', 'not worked', 'reversed', 'let through', 'withdrawn', 'merged', 'parted', 'exported', 'erased'));
-- Files that held somebody who was erased are had no more; their rows and checksums stay.
alter table round_file add withdrawn_at timestamptz;
alter table batch_file add withdrawn_at timestamptz;

create or replace function refuse_late_let_through() returns trigger language plpgsql as $$
begin
  -- An erasure takes the words of a reason and nothing else.
  if tg_op = 'UPDATE' and new.reason = 'erased' and (to_jsonb(new) - 'reason') = (to_jsonb(old) - 'reason') then
    return new;
  end if;
  if exists (select 1 from round where id = new.round_id and released_at is not null) then
    raise exception 'the round is released and frozen' using errcode = 'restrict_violation';
  end if;
  return new;
end $$;
drop trigger refuse_let_through on let_through;
create trigger refuse_let_through_new before insert on let_through for each row execute function refuse_let_through();
create trigger refuse_let_through before update on let_through for each row when (new.reason is distinct from 'erased') execute function refuse_let_through();

-- A text without some words, however their letters are written.
create function without_words(said text, pattern text) returns text language sql immutable as $$
  select case when said is null or pattern = '' then said else regexp_replace(said, pattern, '[erased]', 'gi') end $$;

/* What tells of one person and the records merged into them: full names, and addresses and numbers that nobody else in the directory has. */
create function person_words(who bigint) returns text[] language sql stable security definer set search_path = public, pg_temp as $$
  with whole as materialized (select id from person where (id = who or merged_into = who))
  select coalesce(array_agg(distinct word), '{}') from (
    select name as word from (select name from person where id in (select id from whole) union select name from name_variant where person_id in (select id from whole)) x
    where name ~ '\S\s+\S' and length(name) >= 5
      -- Whoever else has the same name keeps what is theirs.
      and not exists (select 1 from person o where lower(o.name) = lower(x.name) and o.id not in (select id from whole) and o.state = 'live')
    union all
    select said from address a cross join lateral (values (a.value), (btrim(a.raw))) v(said)
    where a.person_id in (select id from whole) and a.channel <> 'post' and length(said) >= 5
      and not exists (select 1 from address o join person p on p.id = o.person_id where o.key = a.key and p.id not in (select id from whole) and p.state = 'live')) w $$;
revoke all on function person_words(bigint) from public;
grant execute on function person_words(bigint) to arch_app;

/* Erases one person and the records merged into them, in the caller's transaction. Gives how many rows of files, files of rounds and
   uploads were touched. `also` are uploads in which the caller found them, which bytes alone do not tell. The caller has written the suppression that stays, and writes the entry that says so. */
create function erase_person(who bigint, also bigint[]) returns jsonb language plpgsql security definer set search_path = public, pg_temp as $$
declare
  whole bigint[] := array(select id from person where (id = who or merged_into = who) order by id);
  words text[];
  pattern text;
  rows_touched int := 0;
  files jsonb;
  uploads bigint[];
begin
  perform 1 from person where id = any(whole) for update;
  if not exists (select 1 from person where id = who and state <> 'erased') then
    raise exception 'there is no such person to erase' using errcode = 'no_data_found';
  end if;
  words := person_words(who);
  -- The letter that is written as a code is the question mark, which the client would take for a parameter.
  pattern := coalesce((select string_agg(regexp_replace(word, '([.^$*+' || chr(63) || '()\[\]{}|\\])', '\\\1', 'g'), '|') from unnest(words) word), '');

  -- Rows of files, as they came: theirs, and those nobody was made of that name one of their addresses.
  create temporary table erased_row on commit drop as
    select batch_id, row_no from batch_row where person_id = any(whole)
    union select batch_id, row_no from batch_row where person_id is null and (candidates && whole or (pattern <> '' and array_to_string(raw, E'\n') ~* pattern));
  update batch_row r set raw = array_fill(''::text, array[cardinality(r.raw)]), reason = case when r.reason is null then null else 'erased' end,
    undone_why = case when r.undone_why is null then null else 'erased' end
    from erased_row e where e.batch_id = r.batch_id and e.row_no = r.row_no;
  get diagnostics rows_touched = row_count;
  -- Uploads: of those rows, and those that are still to be brought in and name them.
  uploads := array(select distinct batch_id from erased_row
    union select p.batch_id from batch_file_part p join batch b on b.id = p.batch_id cross join unnest(words) word
      where b.state not in ('done', 'undone') and position(convert_to(word, 'UTF8') in p.bytes) > 0
    union select id from batch where state not in ('done', 'undone') and pattern <> '' and first_rows::text ~* pattern
    union select unnest(also));
  delete from batch_file_part where batch_id = any(uploads);
  update batch_file set withdrawn_at = now() where batch_id = any(uploads) and withdrawn_at is null;
  update batch set first_rows = null, trial = null, error = without_words(error, pattern) where id = any(uploads);
  update batch set state = 'failed', error = 'The file named somebody who was erased on request, so it was withdrawn. Upload it again without them.'
    where id = any(uploads) and state in ('mapping', 'queued', 'running') and not exists (select 1 from batch_row r where r.batch_id = batch.id and r.outcome is not null);
  drop table erased_row;

  -- What rounds froze: who stood where stays, without who they were.
  update round_member set card = jsonb_build_object('name', 'Erased person', 'given', '', 'family', '', 'role', null, 'organisation', null, 'sort', ''),
    why = without_words(why, pattern) where person_id = any(whole);
  with withdrawn as (
    update round_file f set bytes = '', withdrawn_at = now()
    where f.withdrawn_at is null and exists (select 1 from round_channel c where c.round_id = f.round_id and c.channel = f.channel and c.person_id = any(whole) and c.sent_to is not null)
      -- A note on somebody else may name them.
      or f.withdrawn_at is null and exists (select 1 from unnest(words) word where position(convert_to(word, 'UTF8') in f.bytes) > 0)
    returning f.round_id, f.channel)
  select coalesce(jsonb_agg(jsonb_build_object('round', round_id, 'channel', channel)), '[]') into files from withdrawn;
  update round_channel set sent_to = '{"value": "erased"}' where person_id = any(whole) and sent_to is not null;
  update contact_to_come set ended_at = now() where person_id = any(whole) and ended_at is null;
  update let_through set reason = 'erased' where person_id = any(whole);

  -- The ledger: entries stay, their words go; words of others that name them as well.
  update entry_value v set before = null, after = null, note = null from entry e where e.value_id = v.id and e.person_id = any(whole);
  update entry set result = null where person_id = any(whole) and kind = 'contact'
    and result not in ('spoke', 'no answer', 'voicemail', 'meeting set', 'wrong number', 'out of service', 'not interested', 'asked us to stop', 'sent', 'opened', 'replied', 'bounced', 'returned', 'soft bounced');
  if pattern <> '' then
    update entry_value set before = without_words(before, pattern), after = without_words(after, pattern), note = without_words(note, pattern)
      where before ~* pattern or after ~* pattern or note ~* pattern;
    update edition set lines = without_words(lines::text, pattern)::jsonb, why = without_words(why, pattern) where lines::text ~* pattern or why ~* pattern;
    update list_draft set lines = without_words(lines::text, pattern)::jsonb where lines::text ~* pattern;
    update list_proposal set lines = without_words(lines::text, pattern)::jsonb, note = without_words(note, pattern), reason = without_words(reason, pattern)
      where lines::text ~* pattern or note ~* pattern or reason ~* pattern;
    update line_comment set text = without_words(text, pattern), line_text = without_words(line_text, pattern) where text ~* pattern or line_text ~* pattern;
    update round_rule_change set why = without_words(why, pattern) where why ~* pattern;
    update policy_edition set why = without_words(why, pattern) where why ~* pattern;
    update let_through set reason = 'erased' where reason ~* pattern;
    update act set text = without_words(text, pattern) where text ~* pattern;
    update lifting set word = without_words(word, pattern) where word ~* pattern;
    update suppression_lift set word = without_words(word, pattern) where word ~* pattern;
    update suppression_lift_back set word = without_words(word, pattern) where word ~* pattern;
    update suppression set word = without_words(word, pattern), evidence = without_words(evidence, pattern) where word ~* pattern or evidence ~* pattern;
    update enquiry set asked = without_words(asked::text, pattern)::jsonb, narrowing = without_words(narrowing::text, pattern)::jsonb, note = without_words(note, pattern)
      where asked::text ~* pattern or narrowing::text ~* pattern or note ~* pattern;
    update enquiry_item set key = 'erased-' || enquiry_item.n, data = '{}', answer = case when answer is null then null else '{}'::jsonb end, why = without_words(why, pattern)
      where data::text ~* pattern or answer::text ~* pattern or key ~* pattern;
  end if;
  -- Suppressions keep their keys, and tell no more of whom they are.
  update suppression set hint = '', evidence = null, word = case when person_id = any(whole) then 'erased' else word end
    where person_id = any(whole) or id in (select k.suppression_id from suppression_key k join address a on a.key = k.key
      where a.person_id = any(whole) and a.channel <> 'post' and k.channel <> 'household'
        and not exists (select 1 from address o join person p on p.id = o.person_id where o.key = a.key and p.id <> all(whole) and p.state = 'live'));
  delete from email_check where key in (select key from address where person_id = any(whole) and channel = 'email')
    and key not in (select o.key from address o join person p on p.id = o.person_id where p.id <> all(whole) and p.state = 'live' and o.channel = 'email');

  -- Premises they own are told apart by owner no more.
  update premises set owner = null, owner_name_key = null, owner_address_key = null, details = details - '-50' - '-51' - '-52' - '-53' - '-54'
    where exists (select 1 from person p where p.id = any(whole) and p.name_key <> '' and p.name_key = owner_name_key and p.address_key is not distinct from owner_address_key);
  update merge set taken = '[]' where keep_id = any(whole) or merged_id = any(whole);
  delete from likeness where a = any(whole) or b = any(whole);
  delete from name_variant where person_id = any(whole);
  delete from address where person_id = any(whole);
  delete from address_once where person_id = any(whole);
  update person set given = '', family = '', name = 'Erased person', name_key = '', sort_key = '', role = null, organisation_id = null, relation = null, street = null,
    town = null, postcode = null, county = null, address_key = null, outside_id = null, tags = '{}', custom = '{}',
    state = case when id = who then 'erased' else state end where id = any(whole);
  return jsonb_build_object('records', cardinality(whole), 'rows', rows_touched, 'files', files, 'uploads', cardinality(uploads));
end $$;
revoke all on function erase_person(bigint, bigint[]) from public;
grant execute on function erase_person(bigint, bigint[]) to arch_app;

-- down
drop function erase_person(bigint, bigint[]);
drop function person_words(bigint);
drop function without_words(text, text);
drop trigger refuse_let_through on let_through;
drop trigger refuse_let_through_new on let_through;
create trigger refuse_let_through before insert or update on let_through for each row execute function refuse_let_through();
create or replace function refuse_late_let_through() returns trigger language plpgsql as $$
begin
  if exists (select 1 from round where id = new.round_id and released_at is not null) then
    raise exception 'the round is released and frozen' using errcode = 'restrict_violation';
  end if;
  return new;
end $$;
alter table batch_file drop column withdrawn_at;
alter table round_file drop column withdrawn_at;
alter table entry drop constraint entry_kind_check;
alter table entry add constraint entry_kind_check check (kind in
  ('created', 'change', 'contact', 'note', 'suppressed', 'lifted', 'listed', 'unlisted', 'released', 'not worked', 'reversed', 'let through', 'withdrawn', 'merged', 'parted', 'exported')) not valid;
alter table person drop constraint person_state_check;
alter table person add constraint person_state_check check (state in ('live', 'withdrawn', 'merged')) not valid;
