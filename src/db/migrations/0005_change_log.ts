import type { Knex } from 'knex'

/** More records than this in one statement are one mark: read everything anew. */
const BULK = 5000

const WATCHED: [table: string, what: string, column: string, events: string[]][] = [
  ['person', 'person', 'id', ['insert', 'update']],
  ['organisation', 'organisation', 'id', ['update']],
  ['address', 'person', 'person_id', ['insert', 'update', 'delete']],
  ['entry', 'person', 'person_id', ['insert']],
  ['suppression_key', 'suppression', 'suppression_id', ['insert']],
  ['suppression', 'suppression', 'id', ['insert']],
  ['suppression_lift', 'suppression', 'suppression_id', ['insert']],
  ['contact_to_come', 'person', 'person_id', ['insert', 'update']],
  ['batch_row', 'person', 'person_id', ['insert', 'update']],
]

/**
 * The change log the engine follows: marks of what is dirty, written by statement triggers in the transaction of the
 * data, so that no writer can forget it. Values are read anew in one snapshot with the marks.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create table change_log (
      seq bigint generated always as identity primary key,
      xid xid8 not null default pg_current_xact_id(),
      what text not null,
      ids bigint[],
      at timestamptz not null default clock_timestamp()
    );
    create index on change_log (xid);

    create function mark_change() returns trigger language plpgsql security definer set search_path = public, pg_temp as $$
    declare
      changed bigint[];
      filter text := case when tg_table_name = 'entry' then 'where kind in (''contact'', ''reversed'')' else '' end;
    begin
      execute format('select array_agg(distinct %I) filter (where %I is not null) from fresh %s', tg_argv[1], tg_argv[1], filter) into changed;
      if changed is null then return null; end if;
      insert into change_log (what, ids) values (tg_argv[0], case when cardinality(changed) > ${BULK} then null else changed end);
      perform pg_notify('arch_change', '');
      return null;
    end $$;
    create function prune_change_log() returns void language sql security definer set search_path = public, pg_temp as
      $$ delete from change_log where at < clock_timestamp() - interval '1 day' $$;
    grant select on change_log to arch_app;
  `)
  for (const [table, what, column, events] of WATCHED) {
    for (const event of events) {
      await knex.raw(`
        create trigger mark_${event} after ${event} on ${table}
        referencing ${event === 'delete' ? 'old' : 'new'} table as fresh
        for each statement execute function mark_change('${what}', '${column}')`)
    }
  }
}

export async function down(knex: Knex): Promise<void> {
  for (const [table, , , events] of WATCHED) for (const event of events) await knex.raw(`drop trigger mark_${event} on ${table}`)
  await knex.raw('drop function mark_change(); drop function prune_change_log(); drop table change_log')
}
