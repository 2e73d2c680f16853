import { beforeAll, describe, expect, test } from 'vitest'
import type { Criterion } from '@/core/criteria/registry'
import type { Line } from '@/core/lists/line'
import { firstPolicy } from '@/core/screening/rules'
import { pinClock } from '@/runtime/clock'
import { keepDraft } from '@/usecases/lists/drafts'
import { recordsCsv } from '@/usecases/directory/export-records'
import { commentsOn } from '@/usecases/lists/line-comments'
import { lookAt, lookAway } from '@/usecases/lists/list-readers'
import { listAccountFor } from '@/usecases/lists/list-account'
import { createList } from '@/usecases/lists/create-list'
import { saveEdition } from '@/usecases/lists/save-edition'
import { openList } from '@/usecases/lists/open-list'
import { listIndex, nameableLists } from '@/usecases/lists/list-index'
import { proposalsFor, propose } from '@/usecases/lists/proposals'
import { roundFor } from '@/usecases/rounds/rounds'
import { shareList, sharingOf } from '@/usecases/lists/share-list'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'
import { latestEdition } from '@/db/lists/list-rows'
import { keepArea } from '@/usecases/lists/keep-area'
import { deleteList } from '@/usecases/lists/delete-list'
import { archiveList } from '@/usecases/lists/archive-list'
import { copyList } from '@/usecases/lists/copy-list'
import { commentOn } from '@/usecases/lists/comment-on'
import { settleComments } from '@/usecases/lists/settle-comments'
import { proposalEffect } from '@/usecases/lists/proposal-effect'
import { takeProposal } from '@/usecases/lists/take-proposal'
import { leaveProposal } from '@/usecases/lists/leave-proposal'
import { takeBackProposal } from '@/usecases/lists/take-back-proposal'
import { readDecision } from '@/usecases/lists/read-decision'
import { goBackTo } from '@/usecases/lists/go-back-to'
import { handOver } from '@/usecases/lists/hand-over'
import { startRound } from '@/usecases/rounds/start-round'
import { setRules } from '@/usecases/rounds/set-rules'
import { renameList } from '@/usecases/lists/rename-list'

let t: TestDatabase
const start: Line = { id: 's', verb: 'start', off: false, batch: null }
const keep = (id: string, criterion: Criterion): Line => ({ id, verb: 'keep', off: false, unknownAsYes: false, criterion })
const tagged = (id: string, tag: string): Line => keep(id, { kind: 'tag', any: [tag] })
const on = (id: number, name: string): Criterion => ({ kind: 'list', list: { id, name }, edition: null })
const AREA = {
  polygons: [
    [
      [
        [1.49, 55.29],
        [1.51, 55.29],
        [1.51, 55.31],
        [1.49, 55.31],
      ],
    ],
  ],
  circles: [],
  streets: [],
}

beforeAll(async () => {
  t = await freshDatabase()
  await broughtIn(
    t.ines,
    'people.csv',
    'Name,Email,Tags\nAnn Able,ann@a.example,roof; nursery\nBob Bell,bob@b.example,roof\nCas Cole,cas@c.example,nursery\n',
  )
  await startEngine(t)
})

describe('who may do what with a list', () => {
  test('see looks and no more; use names, copies and starts rounds; edit saves; its owner alone does the rest', async () => {
    const id = await createList(t.ines, 'Stepwise', false, [start, tagged('a', 'roof')])
    await expect(openList(t.marek, id)).rejects.toThrow(/no such list/)

    await shareList(t.ines, id, { team: null, members: [{ id: t.marek.id, role: 'see' }] })
    expect(await openList(t.marek, id)).toMatchObject({ role: 'see', mine: false, shared: false, owner: 'Ines Okafor' })
    await expect(openList(t.tam, id)).rejects.toThrow(/no such list/)
    expect((await listIndex(t.marek)).find((l) => l.id === id)).toMatchObject({ role: 'see' })
    expect((await listIndex(t.tam)).some((l) => l.id === id)).toBe(false)
    await expect(saveEdition(t.marek, id, 1, [start])).rejects.toThrow(/may look at “Stepwise”, not edit it/)
    await expect(goBackTo(t.marek, id, 1)).rejects.toThrow(/not edit it/)
    await expect(copyList(t.marek, id)).rejects.toThrow(/not use it/)
    await expect(startRound(t.marek, id)).rejects.toThrow(/not use it/)
    await expect(recordsCsv(t.marek, { list: id, lines: [start], view: { tab: 'on' } })).rejects.toThrow(/not use it/)
    expect((await nameableLists(t.marek, 0)).some((l) => l.id === id)).toBe(false)
    await expect(createList(t.marek, 'Names it', false, [start, keep('k', on(id, 'Stepwise'))])).rejects.toThrow(
      /look at “Stepwise”, not name it/,
    )

    await shareList(t.ines, id, { team: 'see', members: [{ id: t.marek.id, role: 'use' }] })
    expect((await openList(t.tam, id)).role).toBe('see')
    expect((await nameableLists(t.marek, 0)).some((l) => l.id === id)).toBe(true)
    await copyList(t.marek, id)
    const round = await startRound(t.marek, id)
    expect((await roundFor(t.tam, round)).round.id).toBe(round)
    await shareList(t.ines, id, { team: 'see', members: [] })
    await expect(setRules(t.marek, round, firstPolicy())).rejects.toThrow(/not use it/)
    await expect(saveEdition(t.marek, id, 1, [start])).rejects.toThrow(/not edit it/)

    await shareList(t.ines, id, { team: 'edit', members: [{ id: t.tam.id, role: 'see' }] })
    // Whatever the team may, somebody named may too.
    expect((await openList(t.tam, id)).role).toBe('edit')
    expect(await saveEdition(t.marek, id, 1, [start, tagged('a', 'nursery')])).toEqual({ edition: 2 })
    for (const owners of [
      () => renameList(t.marek, id, 'Theirs'),
      () => deleteList(t.marek, id),
      () => archiveList(t.marek, id, true),
      () => shareList(t.marek, id, { team: null, members: [] }),
      () => handOver(t.marek, id, t.tam.id),
    ])
      await expect(owners()).rejects.toThrow(/Only its owner can/)
  })

  test('handed over, it is the other’s, and whoever had it may still edit', async () => {
    const id = await createList(t.ines, 'Handed over', false)
    await handOver(t.ines, id, t.marek.id)
    expect(await openList(t.marek, id)).toMatchObject({ mine: true })
    expect(await sharingOf(t.ines, id)).toEqual({ team: null, members: [{ id: t.ines.id, role: 'edit' }] })
    await expect(handOver(t.marek, id, 'nobody')).rejects.toThrow(/Choose the colleague/)
  })

  test('whoever sees a list sees all it names: by team, by name, when it is saved, shared or handed over', async () => {
    const inner = await createList(t.ines, 'Inner', false)
    const outer = await createList(t.ines, 'Outer', false, [start, keep('k', on(inner, 'Inner'))])
    await expect(shareList(t.ines, outer, { team: null, members: [{ id: t.tam.id, role: 'see' }] })).rejects.toThrow(
      /“Outer” cannot name “Inner”, which Tam Reyes may not see/,
    )
    expect((await sharingOf(t.ines, outer)).members).toEqual([])
    await shareList(t.ines, inner, { team: null, members: [{ id: t.tam.id, role: 'see' }] })
    await shareList(t.ines, outer, { team: null, members: [{ id: t.tam.id, role: 'edit' }] })
    await expect(shareList(t.ines, inner, { team: null, members: [] })).rejects.toThrow(/Tam Reyes may not see/)
    await expect(handOver(t.ines, outer, t.marek.id)).rejects.toThrow(/Marek Dunn may not see/)
    // Tam may only see the inner list: the line that names it goes on, another that does is not Tam's to add.
    expect(await saveEdition(t.tam, outer, 1, [start, keep('k', on(inner, 'Inner')), tagged('a', 'roof')])).toEqual({ edition: 2 })
    const own = await createList(t.tam, 'Tam’s', false)
    await expect(saveEdition(t.tam, own, 1, [start, keep('k', on(inner, 'Inner'))])).rejects.toThrow(/not name it/)
    // A private area is as private as a list.
    const area = await keepArea(t.ines, { name: 'My own corner', shape: AREA, shared: false, named: true })
    const there = await createList(t.ines, 'There', false, [start, keep('w', { kind: 'area', areas: [area] })])
    await expect(shareList(t.ines, there, { team: null, members: [{ id: t.tam.id, role: 'see' }] })).rejects.toThrow(
      /“My own corner”, which is private/,
    )
  })

  test('a sharing that is not whole, or with somebody who is not of the team, changes nothing', async () => {
    const id = await createList(t.ines, 'Not changed', true)
    await expect(shareList(t.ines, id, { team: 'own' })).rejects.toThrow(/was not changed: say what the team may do/)
    await expect(shareList(t.ines, id, { team: null, members: [{ id: 'stranger', role: 'see' }] })).rejects.toThrow(/no longer on the team/)
    expect(await sharingOf(t.tam, id)).toEqual({ team: 'edit', members: [] })
  })
})

describe('what is said of a line', () => {
  test('stays with the line, whoever rewords it, until it is settled; and is read where the line is gone', async () => {
    const id = await createList(t.ines, 'Talked about', false, [start, tagged('a', 'roof')])
    await shareList(t.ines, id, { team: 'see', members: [] })
    await commentOn(t.tam, id, 'a', '  Half of them moved out.  ')
    await saveEdition(t.ines, id, 1, [start, tagged('a', 'nursery')])
    await commentOn(t.ines, id, 'a', 'Which half?')
    expect(await commentsOn(t.marek, id)).toMatchObject([
      { line: 'a', of: 'Keep is tagged roof', edition: 1, text: 'Half of them moved out.', by: 'Tam Reyes', mine: false, settled: null },
      { line: 'a', of: 'Keep is tagged nursery', edition: 2, text: 'Which half?', by: 'Ines Okafor' },
    ])
    await expect(settleComments(t.tam, id, 'a')).rejects.toThrow(/Only people who may edit/)
    await settleComments(t.ines, id, 'a')
    expect((await commentsOn(t.tam, id)).map((c) => c.settled?.by)).toEqual(['Ines Okafor', 'Ines Okafor'])
    await commentOn(t.tam, id, 'a', 'One more.')
    await settleComments(t.tam, id, 'a')
    await saveEdition(t.ines, id, 2, [start])
    expect(await commentsOn(t.tam, id)).toHaveLength(3)
    await expect(commentOn(t.tam, id, 'a', 'And now?')).rejects.toThrow(/not in the saved list/)
    await expect(commentOn(t.tam, id, 's', ' ')).rejects.toThrow(/1 to 1,000 letters/)
    await expect(t.app.raw('delete from line_comment')).rejects.toThrow(/permission denied/)
    await expect(t.app.raw(`update line_comment set text = 'other'`)).rejects.toThrow(/permission denied/)
    const hidden = await createList(t.ines, 'Hidden', false)
    await expect(commentOn(t.tam, hidden, 's', 'Hello')).rejects.toThrow(/no such list/)
    await expect(commentsOn(t.tam, hidden)).rejects.toThrow(/no such list/)
  })
})

describe('a proposal', () => {
  const listed = async (name: string) => {
    const id = await createList(t.ines, name, false, [start, tagged('a', 'roof')])
    await shareList(t.ines, id, { team: 'see', members: [] })
    return id
  }

  test('says what it would do, is taken as the next edition with whose it was, and whoever made it is told', async () => {
    const id = await listed('Proposed to')
    await keepDraft(t.tam, id, 1, [start, tagged('a', 'roof'), tagged('b', 'nursery')])
    const made = await propose(t.tam, id, 1, [start, tagged('a', 'roof'), tagged('b', 'nursery')], 'nurseries alone')
    expect((await openList(t.tam, id)).draft).toBeNull()
    expect(await proposalsFor(t.marek, id)).toEqual([])
    expect((await listIndex(t.ines)).find((l) => l.id === id)?.proposals).toBe(1)
    // The list went on meanwhile, and its owner has a draft.
    await saveEdition(t.ines, id, 1, [start, tagged('x', 'roof'), tagged('a', 'roof')])
    await keepDraft(t.ines, id, 2, [start, tagged('x', 'roof'), tagged('a', 'roof'), tagged('d', 'nobody')])
    const [waiting] = await proposalsFor(t.ines, id)
    expect(waiting).toMatchObject({ id: made, by: 'Tam Reyes', note: 'nurseries alone', mine: false, mayDecide: true, decision: null })
    expect(waiting.differences.map((d) => [d.is, d.text, d.crosses])).toEqual([['added', 'Keep is tagged nursery', false]])
    const effect = await proposalEffect(t.ines, made)
    expect(effect).toEqual({
      figures: { opening: 2, left: 1, joined: 0, stayed: 1, closing: 1 },
      page: { total: 1, behind: null, records: [] },
    })
    const whole = { offset: 0, limit: 60 }
    const leaving = (await proposalEffect(t.ines, made, 'left', whole)).page
    expect(leaving.records.map((r) => r.because)).toEqual([
      { title: expect.stringMatching(/^Left out by line \d of what is proposed$/), detail: 'Keep is tagged nursery' },
    ])
    const staying = (await proposalEffect(t.ines, made, 'stayed', whole)).page
    expect([staying.total, staying.records[0].id === leaving.records[0].id]).toEqual([1, false])
    expect((await proposalEffect(t.ines, made, 'joined', whole)).page.records).toEqual([])
    // What it says it would do is what the account of the page it gives says.
    expect((await listAccountFor(t.ines, { lines: waiting.page, view: { tab: 'on' } })).figures.totals.balance).toBe(effect.figures.closing)
    await expect(proposalEffect(t.marek, made)).rejects.toThrow(/no such proposal/)
    await expect(takeProposal(t.tam, made)).rejects.toThrow(/not edit it/)

    expect(await takeProposal(t.ines, made)).toBe(3)
    const edition = await latestEdition(id)
    expect(edition.lines.map((l) => l.id)).toEqual(['s', 'x', 'a', 'b'])
    expect((await t.app('edition').where({ list_id: id, number: 3 }).first('why')).why).toBe('proposed by Tam Reyes: nurseries alone')
    expect((await openList(t.ines, id)).draft?.lines.map((l) => l.id)).toEqual(['s', 'x', 'a', 'd'])
    expect(await proposalsFor(t.ines, id)).toEqual([])
    expect((await proposalsFor(t.tam, id)).map((p) => p.decision)).toEqual([{ is: 'taken', by: 'Ines Okafor', reason: '', edition: 3 }])
    await readDecision(t.tam, made)
    expect(await proposalsFor(t.tam, id)).toEqual([])
    await expect(leaveProposal(t.ines, made, '')).rejects.toThrow(/settled already/)
  })

  test('not taken is told with why; taken back, its lines are a draft again', async () => {
    const id = await listed('Left')
    const one = await propose(t.tam, id, 1, [start], '')
    await leaveProposal(t.ines, one, 'the roofs are the point')
    expect((await proposalsFor(t.tam, id)).map((p) => p.decision)).toEqual([
      { is: 'not taken', by: 'Ines Okafor', reason: 'the roofs are the point', edition: null },
    ])
    const two = await propose(t.tam, id, 1, [start, tagged('a', 'nursery')], '')
    await expect(takeBackProposal(t.marek, two)).rejects.toThrow(/Only the person who proposed/)
    await takeBackProposal(t.tam, two)
    expect((await openList(t.tam, id)).draft?.lines).toEqual([start, tagged('a', 'nursery')])
    await expect(takeProposal(t.ines, two)).rejects.toThrow(/settled already/)
  })

  test('is taken by any edition that holds all it says, and stays where only part does', async () => {
    const id = await listed('Held')
    await propose(t.tam, id, 1, [start, tagged('a', 'nursery'), tagged('b', 'roof')], '')
    await saveEdition(t.ines, id, 1, [start, tagged('a', 'roof'), tagged('b', 'roof')])
    expect((await proposalsFor(t.ines, id)).map((p) => p.differences.map((d) => d.is))).toEqual([['changed']])
    await saveEdition(t.ines, id, 2, [start, tagged('a', 'nursery'), tagged('b', 'roof')])
    expect((await proposalsFor(t.tam, id)).map((p) => p.decision?.edition)).toEqual([3])
  })

  test('of nothing, of what cannot be, or one too many is refused, and the draft stays', async () => {
    const id = await listed('Refused')
    await expect(propose(t.tam, id, 1, [start, tagged('a', 'roof')], '')).rejects.toThrow(/nothing to propose/)
    await expect(propose(t.tam, id, 1, [start, { ...start, id: 'two' }], '')).rejects.toThrow(/line 2/)
    const mine = await createList(t.tam, 'Tam alone', false)
    const wish = [start, tagged('a', 'roof'), keep('k', on(mine, 'Tam alone'))]
    await keepDraft(t.tam, id, 1, wish)
    await expect(propose(t.tam, id, 1, wish, '')).rejects.toThrow(/“Refused” cannot name “Tam alone”/)
    expect((await openList(t.tam, id)).draft?.lines).toEqual(wish)
    for (let i = 0; i < 20; i++) await propose(t.tam, id, 1, [start, tagged('a', 'roof'), tagged('b', `tag ${i}`)], '')
    await expect(propose(t.tam, id, 1, [start], '')).rejects.toThrow(/20 proposals for this list wait/)
  })

  test('settled by two at once is settled once', async () => {
    const id = await listed('Twice')
    await shareList(t.ines, id, { team: 'edit', members: [] })
    const made = await propose(t.tam, id, 1, [start], '')
    const both = await Promise.allSettled([takeProposal(t.ines, made), leaveProposal(t.marek, made, 'no')])
    expect(both.filter((r) => r.status === 'fulfilled')).toHaveLength(1)
    const { decision } = await t.app('list_proposal').where({ id: made }).first('decision')
    expect((await latestEdition(id)).number).toBe(decision === 'taken' ? 2 : 1)
  })
})

test('who has a list open is known to the others who have, until they close it or are not heard of', async () => {
  const id = await createList(t.ines, 'Looked at', true)
  expect(await lookAt(t.ines, id, false)).toEqual([])
  expect(await lookAt(t.tam, id, true)).toEqual([{ name: 'Ines Okafor', working: false }])
  expect(await lookAt(t.ines, id, false)).toEqual([{ name: 'Tam Reyes', working: true }])
  await lookAway(t.tam, id)
  expect(await lookAt(t.ines, id, false)).toEqual([])
  await lookAt(t.tam, id, false)
  pinClock(new Date('2026-06-15T09:02:00Z'))
  expect(await lookAt(t.ines, id, false)).toEqual([])
  pinClock(new Date('2026-06-15T09:00:00Z'))
  const hidden = await createList(t.ines, 'Nobody else', false)
  await expect(lookAt(t.tam, hidden, false)).rejects.toThrow(/no such list/)
})
