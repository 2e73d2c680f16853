import { describe, expect, test } from 'vitest'
import { releasedIn } from '@/core/rounds/results'
import { recordContact } from '@/usecases/contact/record-contact'
import { proofOf } from '@/usecases/directory/proof'
import { newRule } from '@/core/screening/new-rule'
import { setRules } from '@/usecases/rounds/set-rules'
import { listAccountFor } from '@/usecases/lists/list-account'
import { openList } from '@/usecases/lists/open-list'
import { saveEdition } from '@/usecases/lists/save-edition'
import { closeRound } from '@/usecases/rounds/close-round'
import { openRound } from '@/usecases/rounds/open-round'
import { releaseRound } from '@/usecases/rounds/release-round'
import { requalifyList } from '@/usecases/rounds/requalify-list'
import { roundFile } from '@/usecases/rounds/round-file'
import { roundIndex } from '@/usecases/rounds/round-index'
import { resultsFile, roundResults } from '@/usecases/rounds/round-results'
import { roundsOfList } from '@/usecases/rounds/rounds-of-list'
import { screenRound } from '@/usecases/rounds/screen-round'
import { setOnlyNew } from '@/usecases/rounds/set-only-new'
import { startRound } from '@/usecases/rounds/start-round'
import { startSupplement } from '@/usecases/rounds/start-supplement'
import { todayPage } from '@/usecases/team/today'
import { suppress } from '@/usecases/screening/suppress'
import { broughtIn } from '../../support/database'
import { builtRound, givenRounds, t } from './released-while'

givenRounds()

let next = 0
/** Another file of people, and an edition of the list that adds it. */
async function newcomers(list: number, rows: string): Promise<number[]> {
  const n = ++next
  const batch = await broughtIn(t.ines, `later-${n}.csv`, `Id,Name,Organisation,Email,Status\n${rows}`)
  const { lines, edition } = await openList(t.ines, list)
  const criterion = { kind: 'batch', batch: { id: batch, name: `later-${n}` } }
  await saveEdition(t.ines, list, edition, [...lines, { id: `add-${n}`, verb: 'add', off: false, unknownAsYes: false, criterion }])
  return (await t.app('person').where({ batch_id: batch }).orderBy('id').select('id')).map(({ id }) => id)
}
/** A released round of three people, and two more on its list since. */
async function withNewcomers() {
  const built = await builtRound()
  await releaseRound(t.ines, built.round)
  const k = next + 1
  const rows = ['One', 'Two'].map((own) => `S${k}${own},New ${own},House S${k},s${k}${own.toLowerCase()}@later.example,prospect\n`)
  return { ...built, fresh: await newcomers(built.list, rows.join('')) }
}
const clearIn = async (round: number) =>
  (await screenRound(t.ines, round, { tab: 'clear' })).page.people.map(({ id }) => id).sort((a, b) => a - b)
const members = async (round: number): Promise<number[]> =>
  (await t.app('round_member').where({ round_id: round }).orderBy('person_id').select('person_id')).map((own) => own.person_id)

describe('a supplement', () => {
  test('is for whoever newly fits, frozen by itself under the number of its round', async () => {
    const { round, list, ids, fresh } = await withNewcomers()
    const before = await members(round)
    const supplement = await startSupplement(t.ines, round)
    // Asked for again, the one that is being built is gone on with.
    expect(await startSupplement(t.ines, round)).toBe(supplement)
    expect(await clearIn(supplement)).toEqual(fresh)
    expect(await openRound(t.ines, supplement)).toMatchObject({
      called: '1, supplement 1',
      state: 'being built',
      supplement: 1,
      base: { id: round, called: '1' },
      hasEarlier: false,
    })
    await releaseRound(t.ines, supplement)
    expect(await members(supplement)).toEqual(fresh)
    expect(await members(round)).toEqual(before)
    const file = await roundFile(t.ines, supplement, 'email')
    expect(file.name).toMatch(/round-1-supplement-1-email\.csv$/)
    expect(file.bytes.toString()).toContain('@later.example')
    expect((await roundFile(t.ines, round, 'email')).bytes.toString()).not.toContain('@later.example')
    expect((await openRound(t.ines, round)).supplements).toEqual([
      { id: supplement, called: '1, supplement 1', state: 'released', clear: 2 },
    ])
    // Nobody left the list by it, and nobody of the round is listed a second time.
    const entries = await t.app('entry').where({ round_id: supplement }).select('kind', 'person_id')
    expect(new Set(entries.map((own) => own.kind))).toEqual(new Set(['listed', 'released']))
    expect(entries.some((own) => ids.includes(own.person_id))).toBe(false)
    expect((await roundIndex(t.ines)).filter((own) => own.listId === list).map(({ called }) => called)).toEqual(
      expect.arrayContaining(['1', '1, supplement 1']),
    )
    // A second one holds nobody of either.
    const second = await startSupplement(t.ines, supplement)
    expect(await clearIn(second)).toEqual([])
    await expect(releaseRound(t.ines, second)).rejects.toThrow('nothing to release')
  })

  test('holds nobody whom its round held back', async () => {
    const { round, ids, list } = await builtRound()
    const suppression = await suppress(
      t.tam,
      { person: ids[0] },
      { reason: 'other', channels: ['email', 'phone', 'post', 'direct'], word: 'for now', until: '2026-06-20' },
    )
    expect(suppression).toBeDefined()
    await releaseRound(t.ines, round)
    expect((await roundResults(t.ines, round)).results.counts['not worked']).toBe(2)
    const [late] = await newcomers(list, 'L1,Late One,House L,late1@later.example,prospect\n')
    const supplement = await startSupplement(t.ines, round)
    const { figures } = await screenRound(t.ines, supplement, { tab: 'clear' })
    expect([figures.opening, figures.anyone]).toEqual([1, 1])
    expect(await clearIn(supplement)).toEqual([late])
  })

  test('goes to no address that its round went to', async () => {
    const { round, list, mail } = await builtRound()
    const rules = (await openRound(t.ines, round)).rules.map(({ rule }) => rule)
    await setRules(t.ines, round, [...rules, newRule('same-address', rules)], 'one an inbox')
    await releaseRound(t.ines, round)
    const [same, other] = await newcomers(
      list,
      `D1,Same Inbox,House D,${mail[0]},prospect\nD2,Own Inbox,House D,own@later.example,prospect\n`,
    )
    const supplement = await startSupplement(t.ines, round)
    expect(await clearIn(supplement)).toEqual([other])
    const held = await screenRound(t.ines, supplement, { tab: 'held' })
    expect(held.page.people.map(({ id, because }) => [id, because?.title])).toEqual([[same, expect.stringContaining('Same address')]])
    await releaseRound(t.ines, supplement)
    expect(await members(supplement)).toEqual([same, other])
    const [{ closed_by }] = await t
      .app('round_channel')
      .where({ round_id: supplement, person_id: same, channel: 'email' })
      .select('closed_by')
    expect(closed_by).toBe('same-address')
  })

  test('is added up by its round: results, trend, the next round and the file', async () => {
    const { round, list, ids, fresh } = await withNewcomers()
    const supplement = await startSupplement(t.ines, round)
    await releaseRound(t.ines, supplement)
    await recordContact(t.ines, ids[0], { channel: 'email', result: 'replied', note: null, date: null })
    await recordContact(t.ines, fresh[1], { channel: 'email', result: 'bounced', note: null, date: null })
    const whole = await roundResults(t.ines, round)
    expect(whole.results.counts).toMatchObject({ answered: 1, failed: 1, 'not worked': 3 })
    expect(whole.supplements).toEqual([{ id: supplement, called: '1, supplement 1', people: 2 }])
    expect(whole.results.parts.supplement.map(({ key, counts }) => [key, releasedIn(counts)])).toEqual([
      ['The round itself', 3],
      ['Supplement 1', 2],
    ])
    const own = await roundResults(t.ines, supplement)
    expect([releasedIn(own.results.counts), own.mayClose]).toEqual([2, false])
    expect((await resultsFile(t.ines, round)).bytes.toString()).toContain('Supplement,Supplement 1,2')
    expect((await roundsOfList(t.ines, list)).rounds).toMatchObject([{ number: 1, listed: 5, clear: 5, answered: 1, contacted: 2 }])
    // Requalifying opens with all of them, and nobody left.
    const view = { account: 'listed', tab: 'left' } as const
    const accounts = await requalifyList(t.ines, list, view)
    expect(accounts.round.supplements).toBe(1)
    expect(accounts.listed).toMatchObject({ opening: 5, left: 0, joined: 0, closing: 5 })
    // A line of its edition that lets nobody of the supplement in any more is told as what it is.
    const { lines, edition } = await openList(t.ines, list)
    await saveEdition(t.ines, list, edition, lines.slice(0, 1))
    const narrower = await requalifyList(t.ines, list, view)
    expect(narrower.listed).toMatchObject({ opening: 5, left: 2, closing: 3 })
    expect(narrower.causes.listed).toEqual([expect.stringMatching(/^New edition/)])
    // The next round knows both, and closes both.
    const second = await startRound(t.ines, list, true)
    const states = await t.app('round').where({ list_id: list }).orderBy('id').select('number', 'supplement', 'closed_at')
    expect(states.map((row) => [row.number, row.supplement, row.closed_at !== null])).toEqual([
      [1, 0, true],
      [1, 1, true],
      [2, 0, false],
    ])
    expect(await clearIn(second)).toEqual([])
    const open = await t.app('contact_to_come').whereIn('round_id', [round, supplement]).whereNull('ended_at')
    expect(open).toEqual([])
    const closing = (await roundResults(t.ines, round)).closing
    expect(closing?.counts).toMatchObject({ answered: 1, failed: 1, 'not worked': 3 })
  })

  test('only new people: the next round leaves out whom a supplement released', async () => {
    const { round, list, fresh } = await withNewcomers()
    await releaseRound(t.ines, await startSupplement(t.ines, round))
    await closeRound(t.ines, round)
    const [latest] = await newcomers(list, `N${next},Newest One,House N,newest${next}@later.example,prospect\n`)
    const second = await startRound(t.ines, list, true)
    const answer = await screenRound(t.ines, second, { tab: 'clear' })
    expect([answer.figures.opening, answer.page.people.map(({ id }) => id)]).toEqual([1, [latest]])
    expect(answer.page.people.some(({ id }) => fresh.includes(id))).toBe(false)
  })

  test('is nobody’s move once it is done, and its round is not to be closed before that', async () => {
    const { round, ids, fresh } = await withNewcomers()
    const supplement = await startSupplement(t.ines, round)
    await releaseRound(t.ines, supplement)
    const move = async (id: number) => (await todayPage(t.ines)).moves.find(({ key }) => key === `round ${id}`)
    for (const person of ids) await recordContact(t.ines, person, { channel: 'email', result: 'sent', note: null, date: null })
    expect(await move(round)).toBeUndefined()
    expect(await move(supplement)).toMatchObject({ n: 2, text: expect.stringMatching(/^Round 1, supplement 1 of .*: contacts to make$/) })
    for (const person of fresh) await recordContact(t.ines, person, { channel: 'email', result: 'sent', note: null, date: null })
    expect(await move(supplement)).toBeUndefined()
    expect(await move(round)).toMatchObject({ text: expect.stringMatching(/close it$/) })
  })

  test('is refused of a round that is not out or is closed; dropped, it is gone, and the next takes a number of its own', async () => {
    const built = await builtRound()
    await expect(startSupplement(t.ines, built.round)).rejects.toThrow('not released yet')
    const { round, list } = await withNewcomers()
    const dropped = await startSupplement(t.ines, round)
    await expect(setOnlyNew(t.ines, dropped, true)).rejects.toThrow('not in its round yet')
    await closeRound(t.ines, dropped)
    await expect(openRound(t.ines, dropped)).rejects.toThrow('dropped')
    await expect(releaseRound(t.ines, dropped)).rejects.toThrow('dropped')
    expect((await openRound(t.ines, round)).state).toBe('released')
    const another = await startSupplement(t.ines, round)
    expect((await openRound(t.ines, another)).called).toBe('1, supplement 2')
    // Its round is closed while it is being built: it goes with it.
    await closeRound(t.ines, round)
    await expect(releaseRound(t.ines, another)).rejects.toThrow(/dropped|closed/)
    await expect(startSupplement(t.ines, round)).rejects.toThrow('closed')
    expect((await roundIndex(t.ines)).filter((own) => own.listId === list).map(({ called }) => called)).toEqual(['1'])
    const released = await withNewcomers()
    const out = await startSupplement(t.ines, released.round)
    await releaseRound(t.ines, out)
    await expect(closeRound(t.ines, out)).rejects.toThrow('Close round 1')
  })

  test('begun twice at once is one; released while its round is closed, one of the two is refused', async () => {
    const { round } = await withNewcomers()
    const [one, other] = await Promise.all([startSupplement(t.ines, round), startSupplement(t.ines, round)])
    expect(one).toBe(other)
    const done = await Promise.allSettled([releaseRound(t.ines, one), closeRound(t.ines, round)])
    expect(done[1].status).toBe('fulfilled')
    const [row] = await t.app('round').where({ id: one }).select('released_at', 'closed_at')
    // Closed with its round whichever came first, and never out by itself.
    expect(row.closed_at).not.toBeNull()
    expect(row.released_at !== null).toBe(done[0].status === 'fulfilled')
    expect(await t.app('contact_to_come').where({ round_id: one }).whereNull('ended_at')).toEqual([])
  })

  test('why somebody was contacted names it, and the engine knows its people as of that round', async () => {
    const { round, list, fresh } = await withNewcomers()
    await releaseRound(t.ines, await startSupplement(t.ines, round))
    await recordContact(t.ines, fresh[0], { channel: 'email', result: 'sent', note: null, date: null })
    const proof = await proofOf(t.ines, fresh[0], '2026-06-15')
    expect(JSON.stringify(proof)).toContain('ound 1, supplement 1 of')
    const { name } = await openList(t.ines, list)
    const { lines } = await openList(t.ines, list)
    const on = async () =>
      (await listAccountFor(t.ines, { lines: (await openList(t.ines, list)).lines, view: { tab: 'on' } })).figures.tabs.on
    expect(await on()).toBe(5)
    const was = (which: 'last' | number) => ({ kind: 'round' as const, list: { id: list, name }, which, stood: 'clear' as const })
    for (const which of ['last', 1] as const) {
      const { edition } = await openList(t.ines, list)
      await saveEdition(t.ines, list, edition, [
        ...lines,
        { id: 'was', verb: 'drop', off: false, unknownAsYes: false, criterion: was(which) },
      ])
      expect(await on()).toBe(0)
    }
  })
})
