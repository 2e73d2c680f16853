-- Which kinds of changes give an opener to the people of a list, each with the list's own first sentence where it has one.
create table list_opener (
  list_id bigint not null references list on delete cascade,
  kind_id bigint not null references change_kind,
  opener text check (length(opener) between 1 and 400),
  primary key (list_id, kind_id)
);
-- The opener that somebody got in a round. An erasure blanks its words.
create table round_opener (
  round_id bigint not null,
  person_id bigint not null,
  change_id bigint not null references change,
  text text,
  primary key (round_id, person_id),
  foreign key (round_id, person_id) references round_member
);
create index on round_opener (person_id);
create index on round_opener (change_id);
grant select, insert, delete on list_opener to arch_app;
grant select, insert on round_opener to arch_app;

/* Takes the words of somebody who was erased out of what was written besides the ledger; whoever erases calls it before erase_person. */
create function erase_besides(who bigint, words text[]) returns void language plpgsql security definer set search_path = public, pg_temp as $$
declare
  whole bigint[] := array(select id from person where id = who or merged_into = who);
  pattern text := coalesce((select string_agg(regexp_replace(word, '([.^$*+' || chr(63) || '()\[\]{}|\\])', '\\\1', 'g'), '|') from unnest(words) word), '');
begin
  update task set what = 'erased' where person_id = any(whole);
  update round_opener set text = null where person_id = any(whole);
  if pattern <> '' then
    update task set what = without_words(what, pattern) where what ~* pattern;
    update round_opener set text = without_words(text, pattern) where text ~* pattern;
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
drop table round_opener, list_opener;
