import { describe, expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import { createList } from '@/usecases/lists/create-list'
import { saveEdition } from '@/usecases/lists/save-edition'
import { releaseRound } from '@/usecases/rounds/release-round'
import { undoBatch } from '@/usecases/intake/undo-batch'
import { runUndo } from '@/usecases/intake/run-undo'
import { deleteList } from '@/usecases/lists/delete-list'
import { archiveList } from '@/usecases/lists/archive-list'
import { closeRound } from '@/usecases/rounds/close-round'
import { givenRounds, t, start, builtRound, releasedWhile, waitsAtTheGate, mailed, stateOf } from './released-while'

givenRounds()

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
    expect(said).toEqual({ status: 'fulfilled', value: undefined })
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
