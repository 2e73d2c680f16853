import { parse } from 'csv-parse/sync'
import { beforeAll, describe, expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import { createList } from '@/usecases/lists/create-list'
import { saveEdition } from '@/usecases/lists/save-edition'
import type { Confirmed } from '@/core/views/round-views'
import { releaseRound } from '@/usecases/rounds/release-round'
import { undoBatch } from '@/usecases/intake/undo-batch'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'
import { runUndo } from '@/usecases/intake/run-undo'
import { deleteList } from '@/usecases/lists/delete-list'
import { archiveList } from '@/usecases/lists/archive-list'
import { startRound } from '@/usecases/rounds/start-round'
import { closeRound } from '@/usecases/rounds/close-round'
import { openRound } from '@/usecases/rounds/open-round'
import { roundFile } from '@/usecases/rounds/round-file'

/** A release, and what others do while it is under way: held up by a lock in its middle, or waiting for somebody at the gate. */

let t: TestDatabase
const start: Line = { id: 's', verb: 'start', off: false, batch: null }
let n = 0

beforeAll(async () => {
  t = await freshDatabase()
  await startEngine(t)
})

/** Three people of a batch of their own, and a round of a list of them. */
async function builtRound(): Promise<{ round: number; list: number; batch: number; ids: number[]; mail: string[] }> {
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
async function releasedWhile(round: number, meanwhile: () => Promise<unknown>, confirmed?: Confirmed): Promise<PromiseSettledResult<void>> {
  const barrier = await t.owner.transaction()
  await barrier.raw('lock table round_file in share row exclusive mode')
  const releasing = Promise.allSettled([releaseRound(t.ines, round, confirmed)])
  await waitsFor('round_file')
  await meanwhile()
  await barrier.commit()
  return (await releasing)[0]
}

/** Until somebody waits for a lock on a table. */
async function waitsFor(table: string): Promise<void> {
  for (let i = 0; i < 200; i++) {
    const { rows } = await t.owner.raw(`select 1 from pg_locks where relation = ?::regclass and not granted`, [table])
    if (rows.length > 0) return
    await new Promise((resolve) => setTimeout(resolve, 25))
  }
  throw new Error(`nobody came to wait for ${table}`)
}

/** Until somebody waits for an advisory lock. */
async function waitsAtTheGate(): Promise<void> {
  for (let i = 0; i < 200; i++) {
    const { rows } = await t.owner.raw(`select 1 from pg_locks where locktype = 'advisory' and not granted`)
    if (rows.length > 0) return
    await new Promise((resolve) => setTimeout(resolve, 25))
  }
  throw new Error('nobody came to wait at the gate')
}

const mailed = async (round: number) =>
  (parse((await roundFile(t.ines, round, 'email')).bytes, { columns: true }) as Record<string, string>[]).map((row) => row.Email)
const stateOf = async (round: number) => (await openRound(t.ines, round)).state

describe('deleting, archiving, undoing and merging take their turn', () => {
  test.each([
    ['deleted', (list: number) => deleteList(t.ines, list)],
    ['archived', (list: number) => archiveList(t.ines, list, true)],
  ])('a list cannot be %s under its release', async (_, act) => {
    const { round, list } = await builtRound()
    let acted: Promise<PromiseSettledResult<void>[]> = Promise.resolve([])
    expect(
      (
        await releasedWhile(round, async () => {
          acted = Promise.allSettled([act(list)])
          await new Promise((resolve) => setTimeout(resolve, 150))
        })
      ).status,
    ).toBe('fulfilled')
    const [said] = await acted
    expect(said).toMatchObject({
      status: 'rejected',
      reason: expect.objectContaining({ message: expect.stringMatching(/Round 1 of this list is (out|not closed)/) }),
    })
    expect(await stateOf(round)).toBe('released')
    await closeRound(t.ines, round)
  })

  test('undoing a batch under a release keeps whom it released, or the release leaves out whom it withdrew', async () => {
    const { round, batch, ids } = await builtRound()
    const said = await releasedWhile(round, async () => {
      await undoBatch(t.ines, batch)
      await runUndo(batch)
    })
    const withdrawn = (await t.app('person').whereIn('id', ids).where({ state: 'withdrawn' })).length
    const released = said.status === 'fulfilled' ? (await mailed(round)).length : 0
    expect([withdrawn, released]).toEqual([3, 0])
    expect(said).toMatchObject({ status: 'rejected' })
  })

  test('undone while the release waits to commit: whoever comes second sees what the first did', async () => {
    const { round, batch, ids } = await builtRound()
    await undoBatch(t.ines, batch)
    const gate = await t.owner.transaction()
    await gate.raw(`select pg_advisory_xact_lock_shared(hashtext('suppressions'))`)
    const releasing = Promise.allSettled([releaseRound(t.ines, round)])
    await waitsAtTheGate()
    const undoing = runUndo(batch)
    await new Promise((resolve) => setTimeout(resolve, 150))
    await gate.commit()
    const [[said]] = await Promise.all([releasing, undoing])
    expect(said.status).toBe('fulfilled')
    expect(await mailed(round)).toHaveLength(3)
    expect(await t.app('person').whereIn('id', ids).where({ state: 'live' })).toHaveLength(3)
    expect((await t.app('batch_row').where({ batch_id: batch }).first('undone_why')).undone_why).toMatch(/released in a round/)
  })

  test('a list that is being named cannot be deleted, nor a deleted one named', async () => {
    const named = await createList(t.ines, 'To be named', true)
    const naming = await createList(t.ines, 'Naming', true)
    const line: Line = {
      id: 'l',
      verb: 'keep',
      off: false,
      unknownAsYes: false,
      criterion: { kind: 'list', list: { id: named, name: 'To be named' }, edition: null } as never,
    }
    for (let i = 0; i < 6; i++) {
      const results = await Promise.allSettled([saveEdition(t.ines, naming, 1, [start, line]), deleteList(t.ines, named)])
      const both = results.every((r) => r.status === 'fulfilled')
      expect(both).toBe(false)
      if (results[0].status === 'fulfilled') break
    }
  })
})
