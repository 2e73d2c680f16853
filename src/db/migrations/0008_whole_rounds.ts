import type { Knex } from 'knex'

/** Contacts to come of more people than this in one statement are marked by their round. */
const MANY = 5000
const FROZEN = ['round_member', 'round_channel', 'contact_to_come']

/**
 * Releasing and closing a round of very many people; and finding the few suppressions of domains and organisations among
 * very many of single addresses, and people by an outside id whether they are live or merged.
 *
 * Contacts to come are marked by person where they are few, and by round where a round is released or closed: reading
 * those of a round anew is one statement, however many they are.
 *
 * What a release writes is checked as a set, once a statement: that there is such a round, person, seat and channel. A
 * foreign key checks each row by itself, which was a fifth of the time of a release. What they point at is never deleted,
 * which is refused to everybody from here on.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.raw(`
    create function mark_to_come() returns trigger language plpgsql security definer set search_path = public, pg_temp as $$
    declare people bigint[];
    begin
      select array_agg(distinct person_id) into people from fresh;
      if people is null then return null; end if;
      if cardinality(people) > ${MANY} then
        insert into change_log (what, ids) select 'to come', array_agg(distinct round_id) from fresh;
      else
        insert into change_log (what, ids) values ('person', people);
      end if;
      perform pg_notify('arch_change', '');
      return null;
    end $$;
    drop trigger mark_insert on contact_to_come; drop trigger mark_update on contact_to_come;
    create trigger mark_insert after insert on contact_to_come referencing new table as fresh for each statement execute function mark_to_come();
    create trigger mark_update after update on contact_to_come referencing new table as fresh for each statement execute function mark_to_come();

    create index person_outside_id_any_idx on person (outside_id) where outside_id is not null;
    create index suppression_wide_idx on suppression (scope) where scope in ('domain', 'organisation');

    alter table round_member drop constraint round_member_round_id_fkey, drop constraint round_member_person_id_fkey;
    alter table round_channel drop constraint round_channel_round_id_person_id_fkey;
    alter table contact_to_come drop constraint contact_to_come_round_id_fkey, drop constraint contact_to_come_person_id_fkey;
    create function check_frozen() returns trigger language plpgsql security definer set search_path = public, pg_temp as $$
    declare astray bigint;
    begin
      if tg_table_name = 'round_member' then
        select person_id into astray from fresh f where not exists (select 1 from round r where r.id = f.round_id) or not exists (select 1 from person p where p.id = f.person_id) limit 1;
      elsif tg_table_name = 'round_channel' then
        select person_id into astray from fresh f where not exists (select 1 from round_member m where m.round_id = f.round_id and m.person_id = f.person_id) limit 1;
      else
        select person_id into astray from fresh f where not exists (select 1 from round_channel c where c.round_id = f.round_id and c.person_id = f.person_id and c.channel = f.channel and c.closed_by is null) limit 1;
      end if;
      if astray is not null then
        raise exception '% of person % stands for nobody who is there', tg_table_name, astray using errcode = 'foreign_key_violation';
      end if;
      return null;
    end $$;
    create function refuse_delete() returns trigger language plpgsql as $$
    begin
      raise exception 'nothing is deleted from %', tg_table_name using errcode = 'restrict_violation';
    end $$;
  `)
  for (const table of FROZEN) {
    await knex.raw(
      `create trigger check_frozen after insert on ${table} referencing new table as fresh for each statement execute function check_frozen()`,
    )
    await knex.raw(
      `create trigger check_frozen_again after update on ${table} referencing new table as fresh for each statement execute function check_frozen()`,
    )
  }
  for (const table of ['round', 'person', 'round_member', 'round_channel']) {
    await knex.raw(`create trigger refuse_delete before delete on ${table} for each statement execute function refuse_delete()`)
    await knex.raw(`create trigger refuse_truncate before truncate on ${table} for each statement execute function refuse_delete()`)
  }
}

export async function down(knex: Knex): Promise<void> {
  for (const table of ['round', 'person', 'round_member', 'round_channel'])
    await knex.raw(`drop trigger refuse_delete on ${table}; drop trigger refuse_truncate on ${table}`)
  for (const table of FROZEN) await knex.raw(`drop trigger check_frozen on ${table}; drop trigger check_frozen_again on ${table}`)
  await knex.raw(`
    drop index suppression_wide_idx; drop index person_outside_id_any_idx;
    drop function refuse_delete(); drop function check_frozen();
    alter table round_member add foreign key (round_id) references round, add foreign key (person_id) references person;
    alter table round_channel add foreign key (round_id, person_id) references round_member;
    alter table contact_to_come add foreign key (round_id) references round, add foreign key (person_id) references person;
    drop trigger mark_insert on contact_to_come; drop trigger mark_update on contact_to_come;
    create trigger mark_insert after insert on contact_to_come referencing new table as fresh for each statement execute function mark_change('person', 'person_id');
    create trigger mark_update after update on contact_to_come referencing new table as fresh for each statement execute function mark_change('person', 'person_id');
    drop function mark_to_come();
  `)
}
