import { parse } from 'csv-parse/sync'
import { describe, expect, test } from 'vitest'
import { contactedIn, releasedIn } from '@/core/rounds/results'
import { pinClock } from '@/runtime/clock'
import { recordContact } from '@/usecases/contact/record-contact'
import { erasePerson } from '@/usecases/directory/erase-person'
import { mergePeople } from '@/usecases/directory/merge-people'
import { runUndo } from '@/usecases/intake/run-undo'
import { undoBatch } from '@/usecases/intake/undo-batch'
import { listOfThese } from '@/usecases/lists/list-of-these'
import { openList } from '@/usecases/lists/open-list'
import { closeRound } from '@/usecases/rounds/close-round'
import { releaseRound } from '@/usecases/rounds/release-round'
import { resultPeople, resultsFile, roundResults } from '@/usecases/rounds/round-results'
import { roundsOfList } from '@/usecases/rounds/rounds-of-list'
import { startRound } from '@/usecases/rounds/start-round'
import { suppress } from '@/usecases/screening/suppress'
import { broughtIn } from '../../support/database'
import { builtRound, givenRounds, t } from './released-while'

givenRounds()

const spoke = (person: number, result = 'spoke', channel = 'email') =>
  recordContact(t.ines, person, { channel, result, note: null, date: null })
let hour = 0
/** An hour later than whatever was before. */
const later = () => pinClock(new Date(Date.UTC(2026, 5, 1, ++hour)))
async function released() {
  later()
  const built = await builtRound()
  await releaseRound(t.ines, built.round)
  later()
  return built
}
const counts = async (round: number) => (await roundResults(t.ines, round)).results.counts
const NONE = { stopped: 0, 'not worked': 0, answered: 0, reached: 0, 'not reached': 0, failed: 0 }

describe('the results of a round', () => {
  test('follow what is recorded, and each figure shows its people with why', async () => {
    const { round, ids } = await released()
    expect(await counts(round)).toEqual({ ...NONE, 'not worked': 3 })
    await spoke(ids[0], 'sent')
    await spoke(ids[1], 'bounced')
    expect(await counts(round)).toEqual({ ...NONE, 'not worked': 1, reached: 1, failed: 1 })
    // A reply comes after the contact to come was made good: it counts all the same.
    later()
    await spoke(ids[0], 'replied')
    expect(await counts(round)).toEqual({ ...NONE, 'not worked': 1, answered: 1, failed: 1 })
    const answered = await resultPeople(t.ines, round, { of: 'answered' })
    expect(answered.people.map(({ id, because }) => [id, because])).toEqual([
      [ids[0], { title: 'Answered', detail: `email · replied, 1 Jun 2026 · ${t.ines.name}` }],
    ])
    expect((await resultPeople(t.ines, round, { of: 'contacted' })).total).toBe(2)
    expect((await resultPeople(t.ines, round, { of: 'released', by: 'way', key: 'email' })).total).toBe(3)
    expect((await resultPeople(t.ines, round, { of: 'failed', by: 'colleague', key: t.tam.name })).total).toBe(0)
    const { results } = await roundResults(t.ines, round)
    expect(releasedIn(results.counts)).toBe(3)
    expect(results.parts.file.map(({ key }) => key)).toEqual([expect.stringMatching(/^people-\d+\.csv$/)])
  })

  test('tell who was stopped; what an undone file said does not count', async () => {
    const { round, ids } = await released()
    await suppress(t.tam, { person: ids[0] }, { reason: 'opt-out', channels: ['email', 'phone', 'post', 'direct'], word: 'a letter' })
    expect(await counts(round)).toEqual({ ...NONE, stopped: 1, 'not worked': 2 })
    const outside = (await t.app('person').where({ id: ids[1] }).first('outside_id')).outside_id
    const day = new Date(Date.UTC(2026, 5, 1, hour)).toISOString().slice(0, 10)
    const batch = await broughtIn(t.ines, 'sent.csv', `Id,Date,Channel,Result\n${outside},${day},email,replied\n`, { kind: 'contacts' })
    expect(await counts(round)).toEqual({ ...NONE, stopped: 1, 'not worked': 1, answered: 1 })
    await undoBatch(t.marek, batch)
    await runUndo(batch)
    expect(await counts(round)).toEqual({ ...NONE, stopped: 1, 'not worked': 2 })
  })

  test('of merged records a contact counts once, and an erased one stays in the account', async () => {
    const { round, ids } = await released()
    await spoke(ids[0], 'replied')
    await mergePeople(t.ines, ids[1], ids[0])
    expect(await counts(round)).toEqual({ ...NONE, 'not worked': 2, answered: 1 })
    await erasePerson(t.marek, ids[2])
    const after = await counts(round)
    expect(releasedIn(after)).toBe(3)
    expect(contactedIn(after)).toBe(1)
    expect((await resultPeople(t.ines, round, { of: 'released' })).total).toBe(3)
  })

  test('a contact outside any round counts for the round that released them last', async () => {
    const first = await released()
    await spoke(first.ids[0], 'sent')
    await closeRound(t.ines, first.round)
    // Long enough ago for the rule about contacts not to hold anybody back.
    hour += 24 * 120
    later()
    const second = await startRound(t.ines, first.list)
    await releaseRound(t.ines, second)
    later()
    await spoke(first.ids[0], 'sent')
    later()
    await spoke(first.ids[0], 'replied')
    expect((await counts(first.round)).answered).toBe(0)
    expect((await counts(second)).answered).toBe(1)
    const page = await roundResults(t.ines, second)
    // Both stand in the trend of the list, the oldest first.
    expect((await roundsOfList(t.ines, first.list)).rounds).toMatchObject([
      { number: 1, state: 'closed', listed: 3, clear: 3, joined: null, left: null, fit: null, contacted: 1, reached: 1, answered: 0 },
      { number: 2, state: 'released', listed: 3, clear: 3, joined: 0, left: 0, contacted: 1, reached: 1, answered: 1, optOuts: 0 },
    ])
    expect(page.before).toMatchObject([{ id: first.round, number: 1, counts: { reached: 1, 'not worked': 2 } }])
  })

  test('what it had come to when it was closed stays, beside what has come in since', async () => {
    const { round, list, ids } = await released()
    await spoke(ids[0], 'sent')
    later()
    // Starting the next round closes this one, and keeps the same.
    await startRound(t.ines, list)
    later()
    await spoke(ids[0], 'replied')
    const page = await roundResults(t.ines, round)
    expect(page.closing?.counts).toEqual({ ...NONE, 'not worked': 2, reached: 1 })
    expect(page.results.counts).toEqual({ ...NONE, 'not worked': 2, answered: 1 })
  })

  test('become a file of figures and a list, for whoever may use the list; a round that is not out has none', async () => {
    const { round, list, ids } = await released()
    await spoke(ids[0], 'replied')
    const { name, bytes } = await resultsFile(t.ines, round)
    expect(name).toMatch(/^list-\d+-round-1-results\.csv$/)
    const rows = parse(bytes, { bom: true, columns: true }) as Record<string, string>[]
    expect(rows[0]).toMatchObject({ 'Counted by': 'Everybody', Released: '3', Answered: '1', 'Not worked': '2' })
    expect(bytes.toString()).not.toContain('Number')
    const made = await openList(t.ines, await listOfThese(t.ines, { round, results: { of: 'answered' } }))
    expect(made.name).toBe(`Answered in round 1 of ${(await openList(t.ines, list)).name}`)
    await expect(listOfThese(t.ines, { round, results: { of: 'failed' } })).rejects.toThrow(/Nobody was chosen/)
    later()
    await expect(roundResults(t.ines, (await builtRound()).round)).rejects.toThrow(/not released yet/)
  })
})
