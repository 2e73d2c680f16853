import type { Knex } from '@/db/connection'

export interface NoteRow {
  person: number
  at: Date
  by: string | null
  note: string
}

/** So many notes of one person go into a file: the latest. */
const MOST = 3

const NOTES = (who: string) =>
  `select person, at, by, note from (
     select coalesce(p.merged_into, p.id) as person, e.at, u.name as by, v.note,
         row_number() over (partition by coalesce(p.merged_into, p.id) order by e.at desc, e.id desc) as n
       from entry e join entry_value v on v.id = e.value_id join person p on p.id = e.person_id left join "user" u on u.id = e.actor_id
       where e.kind in ('note', 'contact') and v.note <> '' and (${who}) and e.reverses_id is null
         and not exists (select 1 from entry r where r.reverses_id = e.id)) own
     where n <= ${MOST} order by person, n`

/** The latest notes on some people, the newest first: those that were written by themselves and those of contacts. */
export async function notesOf(trx: Knex, people: number[]): Promise<NoteRow[]> {
  return (await trx.raw(NOTES('p.id = any(?::bigint[]) or p.merged_into = any(?::bigint[])'), [people, people] as never)).rows
}

/** The same of everybody in the table of those listed, inside the transaction of a release. */
export async function notesOfListed(trx: Knex): Promise<NoteRow[]> {
  return (await trx.raw(NOTES('coalesce(p.merged_into, p.id) in (select person_id from listed)'))).rows
}
