import type { Knex } from 'knex'

/** What each version of a register held, by key, so that the next tells what is new and gone since. */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table register_key (
      batch_id bigint not null references batch,
      key bytea not null,
      primary key (batch_id, key)
    );
    create index on register_key (key);
    -- Versions from before kept what was new in them, which of the first is everything.
    insert into register_key
      select distinct r.batch_id, k.key from register_file r join suppression s on s.batch_id = r.batch_id join suppression_key k on k.suppression_id = s.id
      where r.batch_id is not null and s.reason = 'register';
    alter table register_file add fresh int, add gone int;
    grant select, insert on register_key to arch_app;
  `)
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw('alter table register_file drop column fresh, drop column gone; drop table register_key')
}
