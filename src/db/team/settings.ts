import { db, type Knex } from '@/db/connection'

/** Returns a number that the team set, or the usual one. */
export async function numberSetting(name: NumberName, trx: Knex = db()): Promise<number> {
  const row = await trx('setting').where({ name }).first('value')
  return row ? Number(row.value) : NUMBERS[name].usual
}

/** Numbers the team sets: what each is where nobody set another (common practice, no source), and what it may be. */
export const NUMBERS = {
  'email-check-good-for': {
    usual: 180,
    least: 1,
    most: 3650,
    what: 'Setting how long a check counts',
    wrong: 'A check counts for 1 to 3,650 days.',
  },
  'lift-share': {
    usual: 5,
    least: 0,
    most: 100,
    what: 'Setting how many may be lifted at once',
    wrong: 'The share is 0 to 100 whole per cent.',
  },
} as const

export type NumberName = keyof typeof NUMBERS

/** Returns the map that the installation draws; undefined where none was set. */
export async function mapSetting(trx: Knex) {
  return await trx('setting').where({ name: 'map' }).first('value')
}

/** Writes a number that the team set. */
export async function writeSetting(trx: Knex, name: string, value: number) {
  return await trx('setting')
    .insert({ name, value: String(value) })
    .onConflict('name')
    .merge()
}
