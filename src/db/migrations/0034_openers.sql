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

-- down
drop table round_opener, list_opener;
