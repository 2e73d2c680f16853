-- A supplement is a round of its own under the number of a round that is out: for people who newly fit its list. 0 is the round itself.
alter table round add column supplement int not null default 0 check (supplement >= 0);
alter table round drop constraint round_list_id_number_key;
alter table round add constraint round_list_id_number_key unique (list_id, number, supplement);
-- A list has at most one round that is not closed, with its supplements, and builds one of them at a time.
drop index round_list_id_idx;
create unique index round_list_id_idx on round (list_id) where closed_at is null and supplement = 0;
create unique index round_being_built on round (list_id) where released_at is null and closed_at is null;
-- What a round is called after the word: "4", or "4, supplement 1".
create function called(r round) returns text language sql immutable as
  $$ select r.number || case when r.supplement = 0 then '' else ', supplement ' || r.supplement end $$;

-- down
drop function called(round);
drop index round_being_built;
drop index round_list_id_idx;
create unique index round_list_id_idx on round (list_id) where closed_at is null;
alter table round drop constraint round_list_id_number_key;
alter table round add constraint round_list_id_number_key unique (list_id, number);
alter table round drop column supplement;
