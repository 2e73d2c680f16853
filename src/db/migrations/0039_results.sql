-- What a round had come to when it was closed: how many, by channel. No names and no words of lines, so an erasure has nothing to do here.
create table round_closing (
  round_id bigint primary key references round,
  figures jsonb not null
);
grant select, insert on round_closing to arch_app;

-- down
drop table round_closing;
