import { beforeEach, describe, expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import { pinClock } from '@/runtime/clock'
import { actOnChange } from '@/usecases/changes/act-on-change'
import { bringChanges } from '@/usecases/changes/bring-changes'
import { changeKinds } from '@/usecases/changes/change-kinds'
import { reportByHand } from '@/usecases/changes/report-by-hand'
import { mergePeople } from '@/usecases/directory/merge-people'
import { archiveList } from '@/usecases/lists/archive-list'
import { createList, startLine } from '@/usecases/lists/create-list'
import { leaveProposal } from '@/usecases/lists/leave-proposal'
import { listAccountFor } from '@/usecases/lists/list-account'
import { listOfThese } from '@/usecases/lists/list-of-these'
import { openList } from '@/usecases/lists/open-list'
import { proposalsFor } from '@/usecases/lists/proposals'
import { saveEdition } from '@/usecases/lists/save-edition'
import { setPlacement } from '@/usecases/lists/set-placement'
import { shareList } from '@/usecases/lists/share-list'
import { takeProposal } from '@/usecases/lists/take-proposal'
import { builtRound, givenRounds, t } from '../rounds/released-while'

givenRounds()

const none = { moved: null, after: null, successor: null, link: null, stated: true, of: 'person' as const }
const kindOf = async (name: string) => (await changeKinds(t.ines)).find((kind) => kind.name === name)?.id as number
async function happened(person: number, kind: string, day = '2026-06-10', text = 'as heard') {
  await reportByHand(t.tam, { ...none, record: person, kind: await kindOf(kind), text, day })
  await bringChanges()
  return (await t.app('change').orderBy('id', 'desc').first('id')).id as number
}
/** A list nobody is on. */
const emptyList = async () => createList(t.ines, 'Roofs after the storm', true, [{ ...startLine(), off: true } as Line])
async function on(list: number): Promise<number[]> {
  const { lines } = await openList(t.ines, list)
  const { page } = await listAccountFor(t.ines, { list, lines, view: { tab: 'on' } })
  return page.records.map(({ id }) => id).sort((a, b) => a - b)
}
const waiting = async (list: number) => (await proposalsFor(t.ines, list)).filter(({ decision }) => decision === null)

let ids: number[]
let day = 10
/** An hour of the day of this test: each has a day of its own, later than the one before. */
const at = (hour: number) => pinClock(new Date(`2026-06-${day}T${String(hour).padStart(2, '0')}:00:00Z`))
beforeEach(async () => {
  day++
  at(9)
  ids = (await builtRound()).ids
})

describe('changes that put their record on a list', () => {
  test('at once, as an edition in the name of whoever set it up; only what is learned of from then on', async () => {
    const list = await emptyList()
    await happened(ids[0], 'Storm damage')
    at(10)
    await setPlacement(t.ines, list, { how: 'edition', kinds: [await kindOf('Storm damage')] })
    expect((await openList(t.ines, list)).placement).toEqual({ how: 'edition', kinds: [await kindOf('Storm damage')] })
    at(11)
    await happened(ids[1], 'Storm damage')
    await happened(ids[2], 'Came to an event')
    expect(await on(list)).toEqual([ids[1]])
    const first = await openList(t.ines, list)
    expect(first.edition).toBe(2)
    expect(first.savedBy).toBe(t.ines.name)
    // The next one shares the line, and nothing is done twice.
    await happened(ids[2], 'Storm damage')
    await bringChanges()
    const second = await openList(t.ines, list)
    expect(await on(list)).toEqual([ids[1], ids[2]].sort((a, b) => a - b))
    expect(second.edition).toBe(3)
    expect(second.lines).toHaveLength(2)
    expect(second.lines.at(-1)).toMatchObject({ verb: 'pick', side: 'in', reason: 'by a change: storm damage', set: { count: 2 } })
  })

  test('as one proposal that gathers what comes until somebody settles it; what was left is not proposed again', async () => {
    const list = await emptyList()
    at(10)
    await setPlacement(t.ines, list, { how: 'proposal', kinds: [await kindOf('Storm damage')] })
    at(11)
    await happened(ids[0], 'Storm damage')
    const gone = await happened(ids[1], 'Storm damage')
    expect(await on(list)).toEqual([])
    const [only, ...more] = await waiting(list)
    expect(more).toEqual([])
    expect(only.note).toBe('2 by changes: storm damage')
    // What was set aside meanwhile does not come along in the next one.
    await actOnChange(t.ines, gone, 'set aside')
    await happened(ids[2], 'Storm damage')
    const [next, ...others] = await waiting(list)
    expect(others).toEqual([])
    await takeProposal(t.ines, next.id)
    expect(await on(list)).toEqual([ids[0], ids[2]].sort((a, b) => a - b))
    const more2 = await builtRound()
    await happened(more2.ids[0], 'Storm damage')
    const [third] = await waiting(list)
    await leaveProposal(t.ines, third.id, 'not now')
    await bringChanges()
    expect(await waiting(list)).toEqual([])
    expect(await on(list)).toHaveLength(2)
  })

  test('whoever was taken off by hand stays off, and what is long past puts nobody on', async () => {
    const list = await emptyList()
    const { lines, edition } = await openList(t.ines, list)
    const [{ id: set }] = await t.app('pick_set').insert({ people: [ids[0]], made_by: t.ines.id, made_at: new Date() }, 'id')
    const out: Line = {
      id: 'o',
      verb: 'pick',
      off: false,
      side: 'out',
      set: { id: set, count: 1 },
      names: [],
      reason: 'asked not to be on it',
      until: null,
      by: t.ines.name,
    }
    await saveEdition(t.ines, list, edition, [...lines, out])
    at(10)
    await setPlacement(t.ines, list, { how: 'edition', kinds: [await kindOf('Storm damage')] })
    at(11)
    await happened(ids[0], 'Storm damage')
    await happened(ids[1], 'Storm damage', '2020-01-01')
    await reportByHand(t.tam, {
      ...none,
      stated: false,
      record: ids[2],
      kind: await kindOf('Storm damage'),
      text: 'as a neighbour says',
      day: '2026-06-10',
    })
    await bringChanges()
    expect(await on(list)).toEqual([ids[2]])
    expect(await t.app('placed').where({ list_id: list }).orderBy('change_id').pluck('outcome')).toContain('taken off before')
  })

  test('a record that was merged is put on as the one that stands', async () => {
    const list = await emptyList()
    at(10)
    await setPlacement(t.ines, list, { how: 'proposal', kinds: [await kindOf('Storm damage')] })
    at(11)
    await happened(ids[0], 'Storm damage')
    await mergePeople(t.ines, ids[0], ids[1])
    await happened(ids[2], 'Storm damage')
    const [proposal] = await waiting(list)
    await takeProposal(t.ines, proposal.id)
    const { id: stands } = await t.app('person').whereIn('id', [ids[0], ids[1]]).where({ state: 'live' }).first('id')
    expect(await on(list)).toEqual([stands, ids[2]].sort((a, b) => a - b))
  })

  test('ends where whoever set it up may not edit the list any more, and waits while it is archived', async () => {
    const list = await emptyList()
    await shareList(t.ines, list, { team: null, members: [{ id: t.tam.id, role: 'edit' }] })
    at(10)
    await setPlacement(t.tam, list, { how: 'edition', kinds: [await kindOf('Storm damage')] })
    at(11)
    await archiveList(t.ines, list, true)
    await happened(ids[0], 'Storm damage')
    expect(await on(list)).toEqual([])
    await shareList(t.ines, list, { team: null, members: [{ id: t.tam.id, role: 'use' }] })
    await archiveList(t.ines, list, false)
    await bringChanges()
    expect(await on(list)).toEqual([])
    expect((await openList(t.ines, list)).placement).toBeNull()
  })

  test('a list of organisations gets the organisation', async () => {
    const list = await listOfThese(t.ines, { of: 'organisation', find: '' }).then(async (all) => {
      const { lines, edition } = await openList(t.ines, all)
      await saveEdition(t.ines, all, edition, [{ ...lines[0], off: true }])
      return all
    })
    at(10)
    await setPlacement(t.ines, list, { how: 'edition', kinds: [await kindOf('Taking people on')] })
    at(11)
    const { id } = await t.app('organisation').where({ live: true }).first('id')
    await reportByHand(t.tam, {
      ...none,
      of: 'organisation',
      record: id,
      kind: await kindOf('Taking people on'),
      text: 'ten',
      day: '2026-06-10',
    })
    await bringChanges()
    expect(await on(list)).toEqual([id])
  })
})
