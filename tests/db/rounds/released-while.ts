import { parse } from 'csv-parse/sync'
import { beforeAll } from 'vitest'
import type { Line } from '@/core/lists/line'
import { createList } from '@/usecases/lists/create-list'
import type { Confirmed } from '@/core/views/round-views'
import { releaseRound } from '@/usecases/rounds/release-round'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'
import { startRound } from '@/usecases/rounds/start-round'
import { openRound } from '@/usecases/rounds/open-round'
import { roundFile } from '@/usecases/rounds/round-file'

/** A release, and what others do while it is under way: held up by a lock in its middle, or waiting for somebody at the gate. */

export let t: TestDatabase
export const start: Line = { id: 's', verb: 'start', off: false, batch: null }
export let n = 0

/** Makes them before the tests of the file that calls this. */
export function givenRounds(): void {
  beforeAll(async () => {
    t = await freshDatabase()
    await startEngine(t)
  })
}

/** Three people of a batch of their own, and a round of a list of them. */
export async function builtRound(): Promise<{ round: number; list: number; batch: number; ids: number[]; mail: string[] }> {
  const k = ++n
  const mail = ['a', 'b', 'c'].map((c) => `${c}${k}@round${k}.example`)
  const batch = await broughtIn(
    t.ines,
    `people-${k}.csv`,
    `Id,Name,Organisation,Email,Status\n${['Ada', 'Ben', 'Cyd'].map((given, i) => `${given}${k},${given} Number${'abcdefghijklmnopqrstuvwxyz'[k]},House ${k},${mail[i]},prospect`).join('\n')}\n`,
  )
  const ids = (await t.app('person').where({ batch_id: batch }).orderBy('id').select('id')).map((p) => p.id)
  const list = await createList(t.ines, `List ${k}`, true, [{ ...start, batch: { id: batch, name: 'people' } } as Line])
  const round = await startRound(t.ines, list)
  return { round, list, batch, ids, mail }
}

/** Releases a round that is held up after everybody is frozen, before the gate is shut; `meanwhile` must come to its end by itself. */
export async function releasedWhile(
  round: number,
  meanwhile: () => Promise<unknown>,
  confirmed?: Confirmed,
): Promise<PromiseSettledResult<void>> {
  const barrier = await t.owner.transaction()
  await barrier.raw('lock table round_file in share row exclusive mode')
  const releasing = Promise.allSettled([releaseRound(t.ines, round, confirmed)])
  await waitsFor('round_file')
  await meanwhile()
  await barrier.commit()
  return (await releasing)[0]
}

/** Other files of tests work in databases of the same cluster, and made from one template they have the same numbers of tables. */
const HERE = `database = (select oid from pg_database where datname = current_database())`

/** Until somebody waits for a lock on a table. */
export async function waitsFor(table: string): Promise<void> {
  for (let i = 0; i < 200; i++) {
    const { rows } = await t.owner.raw(`select 1 from pg_locks where relation = ?::regclass and not granted and ${HERE}`, [table])
    if (rows.length > 0) return
    await new Promise((resolve) => setTimeout(resolve, 25))
  }
  throw new Error(`nobody came to wait for ${table}`)
}

/** Until somebody waits for an advisory lock. */
export async function waitsAtTheGate(): Promise<void> {
  for (let i = 0; i < 200; i++) {
    const { rows } = await t.owner.raw(`select 1 from pg_locks where locktype = 'advisory' and not granted and ${HERE}`)
    if (rows.length > 0) return
    await new Promise((resolve) => setTimeout(resolve, 25))
  }
  throw new Error('nobody came to wait at the gate')
}

export const mailed = async (round: number) =>
  (parse((await roundFile(t.ines, round, 'email')).bytes, { columns: true }) as Record<string, string>[]).map((row) => row.Email)
export const stateOf = async (round: number) => (await openRound(t.ines, round)).state
