import type { Knex } from 'knex'

/**
 * Contacts are marked apart from all else that is known of somebody: they are most of it, and stay as they are when a fact
 * changes. A merge, and its taking back, moves contacts between records.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    drop trigger mark_insert on entry;
    create trigger mark_insert after insert on entry referencing new table as fresh for each statement execute function mark_change('contact', 'person_id');
    create or replace function mark_merge() returns trigger language plpgsql security definer set search_path = public, pg_temp as $$
    begin
      if new.merged_into is distinct from old.merged_into then
        insert into change_log (what, ids) values ('contact', array_remove(array[new.id, new.merged_into, old.merged_into], null));
        insert into change_log (what, ids) select 'round', array_agg(distinct round_id) from round_member where person_id in (new.id, new.merged_into) having count(*) > 0;
      end if;
      return null;
    end $$;
  `)
}

export async function down(knex: Knex): Promise<void> {
  await knex.raw(`
    drop trigger mark_insert on entry;
    create trigger mark_insert after insert on entry referencing new table as fresh for each statement execute function mark_change('person', 'person_id');
    create or replace function mark_merge() returns trigger language plpgsql security definer set search_path = public, pg_temp as $$
    begin
      if new.merged_into is distinct from old.merged_into then
        insert into change_log (what, ids) select 'round', array_agg(distinct round_id) from round_member where person_id in (new.id, new.merged_into) having count(*) > 0;
      end if;
      return null;
    end $$;
  `)
}
