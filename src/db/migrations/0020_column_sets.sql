-- Sets of columns that somebody saved under a name, for the whole team.
create table column_set (
  id bigint generated always as identity primary key,
  subject text not null check (subject in ('person', 'organisation', 'premises')),
  name text not null check (name <> ''),
  columns jsonb not null,
  saved_by text not null references "user",
  saved_at timestamptz not null
);
create unique index on column_set (subject, lower(name));
grant select, insert, update, delete on column_set to arch_app;

-- down
drop table column_set;
