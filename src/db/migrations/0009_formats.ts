import type { Knex } from 'knex'

/**
 * Files of any format and size: a file is kept in parts, so that nobody holds all of it at once; a batch keeps how its
 * file is read and its first rows, so that its columns can be looked at without reading it again.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table batch_file_part (
      batch_id bigint not null references batch_file,
      part int not null,
      bytes bytea not null,
      primary key (batch_id, part)
    );
    insert into batch_file_part select batch_id, 0, bytes from batch_file;
    alter table batch_file add size bigint;
    update batch_file set size = length(bytes);
    alter table batch_file alter size set not null, drop column bytes;
    create index on batch_file (sha256);
    grant select, insert on batch_file_part to arch_app;

    alter table batch add reading jsonb, add choices jsonb not null default '{}', add first_rows jsonb;
    update batch set reading = jsonb_build_object('format', 'csv', 'encoding', encoding, 'delimiter', delimiter, 'headerRow', has_header::int);
    alter table batch alter reading set not null, drop column encoding, drop column delimiter, drop column has_header;
  `)
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    alter table batch add encoding text, add delimiter text, add has_header boolean;
    update batch set encoding = coalesce(reading->>'encoding', 'UTF-8'), delimiter = coalesce(reading->>'delimiter', ','), has_header = (reading->>'headerRow')::int > 0;
    alter table batch alter encoding set not null, alter delimiter set not null, alter has_header set not null, drop column reading, drop column choices, drop column first_rows;
    alter table batch_file add bytes bytea;
    update batch_file f set bytes = (select string_agg(bytes, ''::bytea order by part) from batch_file_part p where p.batch_id = f.batch_id);
    alter table batch_file alter bytes set not null, drop column size;
    drop table batch_file_part;
  `)
}
