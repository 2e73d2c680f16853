-- Who knows whom: what colleagues say of themselves, people outside who know each other, and introductions that were asked for.
alter table entry drop constraint entry_kind_check;
alter table entry add constraint entry_kind_check check (kind in
  ('created', 'change', 'contact', 'note', 'suppressed', 'lifted', 'listed', 'unlisted', 'released', 'not worked', 'reversed', 'let through', 'withdrawn', 'merged', 'parted', 'exported', 'erased', 'reported', 'introduction')) not valid;
alter table entry validate constraint entry_kind_check;

-- Where a colleague worked before, as they say themselves.
create table own_post (
  id bigint generated always as identity primary key,
  user_id text not null references "user" on delete cascade,
  organisation text not null check (length(btrim(organisation)) between 1 and 200),
  from_day date not null,
  to_day date,
  check (to_day is null or to_day >= from_day)
);
create index on own_post (user_id);
-- That a colleague, or somebody else outside, knows a person.
create table acquaintance (
  id bigint generated always as identity primary key,
  person_id bigint not null references person,
  other_id bigint references person,
  user_id text references "user" on delete cascade,
  how text not null check (how in ('knows well', 'worked with', 'met')),
  recorded_by text references "user" on delete set null,
  recorded_at timestamptz not null,
  ended_at timestamptz,
  check (num_nonnulls(other_id, user_id) = 1),
  -- Of two people outside the one who came in first stands first, so that a pair is recorded once.
  check (other_id is null or person_id < other_id)
);
create unique index on acquaintance (person_id, other_id) where other_id is not null and ended_at is null;
create unique index on acquaintance (person_id, user_id) where user_id is not null and ended_at is null;
create index on acquaintance (other_id) where other_id is not null;
-- A colleague asked to open the way to somebody.
create table introduction (
  id bigint generated always as identity primary key,
  person_id bigint not null references person,
  asked_by text not null references "user",
  asked_of text not null references "user",
  -- Somebody outside through whom it could go.
  through_id bigint references person,
  note text check (length(note) <= 1000),
  asked_at timestamptz not null,
  state text not null default 'asked' check (state in ('asked', 'accepted', 'declined', 'taken back')),
  answer text check (length(answer) <= 1000),
  answered_at timestamptz,
  entry_id bigint references entry,
  check (asked_by <> asked_of)
);
create unique index on introduction (person_id, asked_by, asked_of) where state = 'asked';
create index on introduction (asked_of) where state = 'asked';
grant select, insert, update on acquaintance, introduction to arch_app;
grant select, insert, delete on own_post to arch_app;

/* Takes the words of somebody who was erased out of what was written besides the ledger; whoever erases calls it before erase_person. */
create function erase_besides(who bigint, words text[]) returns void language plpgsql security definer set search_path = public, pg_temp as $$
declare
  whole bigint[] := array(select id from person where id = who or merged_into = who);
  pattern text := coalesce((select string_agg(regexp_replace(word, '([.^$*+' || chr(63) || '()\[\]{}|\\])', '\\\1', 'g'), '|') from unnest(words) word), '');
begin
  update task set what = 'erased' where person_id = any(whole);
  update round_opener set text = null where person_id = any(whole);
  update fit_verdict set note = null where person_id = any(whole);
  update introduction set note = null, answer = null, through_id = case when through_id = any(whole) then null else through_id end,
    state = case when state = 'asked' then 'taken back' else state end where person_id = any(whole);
  update introduction set through_id = null where through_id = any(whole);
  update acquaintance set ended_at = now() where (person_id = any(whole) or other_id = any(whole)) and ended_at is null;
  if pattern <> '' then
    update task set what = without_words(what, pattern) where what ~* pattern;
    update round_opener set text = without_words(text, pattern) where text ~* pattern;
    update fit_verdict set note = without_words(note, pattern) where note ~* pattern;
    update introduction set note = without_words(note, pattern), answer = without_words(answer, pattern) where note ~* pattern or answer ~* pattern;
  end if;
end $$;
revoke all on function erase_besides(bigint, text[]) from public;
grant execute on function erase_besides(bigint, text[]) to arch_app;
drop function erase_in_tasks(bigint, text[]);

-- down
create function erase_in_tasks(who bigint, words text[]) returns void language plpgsql security definer set search_path = public, pg_temp as $$
declare pattern text := coalesce((select string_agg(regexp_replace(word, '([.^$*+' || chr(63) || '()\[\]{}|\\])', '\\\1', 'g'), '|') from unnest(words) word), '');
begin
  update task set what = 'erased' where person_id = who or person_id in (select id from person where merged_into = who);
  if pattern <> '' then update task set what = without_words(what, pattern) where what ~* pattern; end if;
end $$;
revoke all on function erase_in_tasks(bigint, text[]) from public;
grant execute on function erase_in_tasks(bigint, text[]) to arch_app;
drop function erase_besides(bigint, text[]);
drop table introduction, acquaintance, own_post;
alter table entry drop constraint entry_kind_check;
alter table entry add constraint entry_kind_check check (kind in
  ('created', 'change', 'contact', 'note', 'suppressed', 'lifted', 'listed', 'unlisted', 'released', 'not worked', 'reversed', 'let through', 'withdrawn', 'merged', 'parted', 'exported', 'erased', 'reported')) not valid;
