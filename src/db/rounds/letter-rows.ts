import type { LetterValues } from '@/core/rounds/letter'
import type { Knex } from '@/db/connection'

/** What a letter consists of. */
export interface LetterText {
  subject: string
  body: string
  sender_name: string
  sender_email: string
  address: string
}

const TEXT = ['subject', 'body', 'sender_name', 'sender_email', 'address'] as const

/** Somebody who gets a letter: where it goes, where that is known already, and what is filled in. */
export interface LetterReader {
  person: number
  to: string | null
  values: LetterValues
}

/** Returns the letter of a list with who wrote it; undefined where none was written. */
export async function letterOf(
  trx: Knex,
  list: number,
): Promise<(LetterText & { written_at: Date; written_by: string; by: string | null }) | undefined> {
  return await trx('letter as l')
    .leftJoin('user as u', 'u.id', 'l.written_by')
    .where({ list_id: list })
    .first(...TEXT.map((own) => `l.${own}`), 'l.written_at', 'l.written_by', 'u.name as by')
}

/** Writes the letter of a list, replacing the one before. */
export async function writeLetterRow(trx: Knex, list: number, letter: LetterText, by: string, at: Date): Promise<void> {
  await trx('letter')
    .insert({ list_id: list, ...letter, written_by: by, written_at: at })
    .onConflict('list_id')
    .merge()
}

interface Row {
  person: number
  to: string | null
  name: string
  given: string | null
  family: string | null
  role: string | null
  organisation: string | null
  opener: string | null
}

const reader = ({ person, to, given, family, ...row }: Row): LetterReader => ({
  person,
  to,
  values: {
    name: row.name,
    'given name': given,
    'family name': family,
    role: row.role,
    organisation: row.organisation,
    opener: row.opener,
  },
})

/** To whom the emails of a released round go, as they were frozen, in the order of their names. `only`: of these people. */
export async function frozenReaders(trx: Knex, round: number, only: readonly number[] | null = null): Promise<LetterReader[]> {
  const { rows } = await trx.raw<{ rows: Row[] }>(
    `select m.person_id as person, c.sent_to ->> 'value' as to, m.card ->> 'name' as name, m.card ->> 'given' as given, m.card ->> 'family' as family,
       m.card ->> 'role' as role, m.card ->> 'organisation' as organisation, o.text as opener
     from round_channel c join round_member m using (round_id, person_id) left join round_opener o using (round_id, person_id)
     where c.round_id = ? and c.channel = 'email' and c.closed_by is null ${only ? 'and c.person_id = any(?::bigint[])' : ''}
     order by m.card ->> 'sort', m.person_id`,
    [round, ...(only ? [[...only]] : [])] as never,
  )
  return rows.map(reader)
}

/** Some people as they are now, in the order of their ids as given. */
export async function readersNow(trx: Knex, people: readonly number[], openers: ReadonlyMap<number, string>): Promise<LetterReader[]> {
  const { rows } = await trx.raw<{ rows: Row[] }>(
    `select p.id as person, null as to, p.name, p.given, p.family, p.role, o.name as organisation, null as opener
     from unnest(?::bigint[]) with ordinality as asked(id, n) join person p on p.id = asked.id left join organisation o on o.id = p.organisation_id order by asked.n`,
    [[...people]] as never,
  )
  return rows.map((row) => reader({ ...row, opener: openers.get(row.person) ?? null }))
}
