-- Tasks: what somebody is to do, by when, about a record, a list, a change or nothing.
create table task (
  id bigint generated always as identity primary key,
  what text not null check (length(btrim(what)) between 1 and 500),
  person_id bigint references person,
  organisation_id bigint references organisation,
  premises_id bigint references premises,
  list_id bigint references list,
  for_id text not null references "user",
  due date,
  made_by text not null references "user",
  made_at timestamptz not null,
  done_at timestamptz,
  done_by text references "user",
  check (num_nonnulls(person_id, organisation_id, premises_id, list_id) <= 1)
);
create index on task (for_id) where done_at is null;
create index on task (person_id) where person_id is not null;
-- Who handed it to whom, act by act.
create table task_act (
  id bigint generated always as identity primary key,
  task_id bigint not null references task,
  act text not null check (act in ('made', 'handed over', 'moved', 'done', 'opened again')),
  actor_id text not null references "user",
  to_id text references "user",
  due date,
  at timestamptz not null
);
create index on task_act (task_id);
grant select, insert, update on task to arch_app;
grant select, insert on task_act to arch_app;

-- When a list is due, and since which day that is counted while it has no round.
alter table list add rhythm jsonb, add rhythm_from date;

/* Takes the words of somebody who was erased out of tasks; whoever erases calls it beside erase_person. */
create function erase_in_tasks(who bigint, words text[]) returns void language plpgsql security definer set search_path = public, pg_temp as $$
declare pattern text := coalesce((select string_agg(regexp_replace(word, '([.^$*+' || chr(63) || '()\[\]{}|\\])', '\\\1', 'g'), '|') from unnest(words) word), '');
begin
  update task set what = 'erased' where person_id = who or person_id in (select id from person where merged_into = who);
  if pattern <> '' then update task set what = without_words(what, pattern) where what ~* pattern; end if;
end $$;
revoke all on function erase_in_tasks(bigint, text[]) from public;
grant execute on function erase_in_tasks(bigint, text[]) to arch_app;

-- down
drop function erase_in_tasks(bigint, text[]);
alter table list drop column rhythm, drop column rhythm_from;
drop table task_act, task;
