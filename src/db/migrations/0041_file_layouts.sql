-- How files of rounds are laid out for whoever receives them: a format and columns under a name, shared by the team.
create table file_layout (
  id bigint generated always as identity primary key,
  channel text not null check (channel in ('email', 'phone', 'post', 'direct')),
  name text not null,
  format text not null check (format in ('csv', 'xlsx', 'jsonl', 'vcard')),
  columns jsonb not null,
  saved_by text not null references "user",
  saved_at timestamptz not null
);
create unique index on file_layout (channel, lower(name));
grant select, insert, update, delete on file_layout to arch_app;
-- How a file was laid out that somebody took; nothing is as it was released.
alter table round_file_taken add layout jsonb;

-- down
alter table round_file_taken drop layout;
drop table file_layout;
