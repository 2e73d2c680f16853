-- Territories: sets of postcodes that belong to colleagues.
create table territory (
  id bigint generated always as identity primary key,
  name text not null check (length(btrim(name)) between 1 and 100),
  -- What its postcodes begin with, as they were typed.
  postcodes text[] not null check (cardinality(postcodes) between 1 and 200),
  saved_by text references "user" on delete set null,
  saved_at timestamptz not null,
  removed_at timestamptz
);
create unique index on territory (lower(name)) where removed_at is null;
create table territory_holder (
  territory_id bigint not null references territory,
  user_id text not null references "user" on delete cascade,
  primary key (territory_id, user_id)
);
grant select, insert, update on territory to arch_app;
grant select, insert, delete on territory_holder to arch_app;
alter table round_share drop constraint round_share_because_check;
alter table round_share add constraint round_share_because_check check (because in ('knows', 'territory', 'had', 'organisation', 'share'));

-- down
update round_share set because = 'share' where because = 'territory';
alter table round_share drop constraint round_share_because_check;
alter table round_share add constraint round_share_because_check check (because in ('knows', 'had', 'organisation', 'share'));
drop table territory_holder, territory;
