import { parse } from 'csv-parse/sync'
import { describe, expect, test } from 'vitest'
import { pinClock } from '@/runtime/clock'
import { recordContact } from '@/usecases/contact/record-contact'
import { mergePeople } from '@/usecases/directory/merge-people'
import { takeBackMerge } from '@/usecases/directory/take-back-merge'
import { runUndo } from '@/usecases/intake/run-undo'
import { undoBatch } from '@/usecases/intake/undo-batch'
import { createList } from '@/usecases/lists/create-list'
import { beginMail } from '@/usecases/rounds/begin-mail'
import { checkContact } from '@/usecases/rounds/check-contact'
import { closeRound } from '@/usecases/rounds/close-round'
import { openRound } from '@/usecases/rounds/open-round'
import { releaseRound } from '@/usecases/rounds/release-round'
import { roundFile } from '@/usecases/rounds/round-file'
import { roundResults } from '@/usecases/rounds/round-results'
import { screenRound } from '@/usecases/rounds/screen-round'
import { shareFile } from '@/usecases/rounds/share-file'
import { setSteps } from '@/usecases/rounds/set-steps'
import { startRound } from '@/usecases/rounds/start-round'
import { todayPage } from '@/usecases/team/today'
import { broughtIn } from '../../support/database'
import { givenRounds, start, t } from './released-while'

givenRounds()

let n = 0
const DAY = 86_400_000
/** So many days after everything began, at nine. */
const onDay = (day: number) => pinClock(new Date(Date.UTC(2026, 8, 1, 9) + day * DAY))
const CALL_LATER = { phone: { after: 10, unless: 'answered' } }

/** Three people with an email and a phone, and a round of theirs in which calls come ten days after emails. */
async function stepped(steps: unknown = CALL_LATER) {
  onDay(0)
  const k = ++n
  const rows = ['Ada', 'Ben', 'Cyd'].map(
    (own, i) => `T${k}${i},${own} Step${'abcdefghijklm'[k]},${own.toLowerCase()}${k}@steps.example,0113 496 0${k}${10 + i}`,
  )
  const batch = await broughtIn(t.ines, `steps-${k}.csv`, `Id,Name,Email,Phone\n${rows.join('\n')}\n`)
  const ids: number[] = (await t.app('person').where({ batch_id: batch }).orderBy('id').select('id')).map((p) => p.id)
  const list = await createList(t.ines, `Steps ${k}`, true, [{ ...start, batch: { id: batch, name: 'steps' } }] as never)
  const round = await startRound(t.ines, list)
  await setSteps(t.ines, round, steps)
  await releaseRound(t.ines, round)
  return { round, list, ids, k }
}
const made = (person: number, result: string, channel = 'email') =>
  recordContact(t.ines, person, { channel, result, note: null, date: null })
const calls = async (round: number) => (await openRound(t.ines, round)).stepsMade.find(({ channel }) => channel === 'phone')
const phoned = async (round: number) =>
  (parse((await roundFile(t.ines, round, 'phone')).bytes, { columns: true, bom: true }) as Record<string, string>[]).map(
    (row) => row['Planned day'],
  )
const moved = async (round: number) => (await todayPage(t.ines)).moves.find(({ key }) => key === `round ${round}`)

describe('a round in steps', () => {
  test('plans each channel for its day: files, today, and the moment of a call say so', async () => {
    const { round, ids } = await stepped()
    expect(await calls(round)).toMatchObject({ due: '2026-09-11', planned: 3, open: 3, spared: 0 })
    expect(await phoned(round)).toEqual(
      ['11 Sept 2026', '11 Sept 2026', '11 Sept 2026'].map((own) => expect.stringMatching(own.replace('Sept', 'Sept?'))),
    )
    expect(await moved(round)).toMatchObject({ n: 3, text: expect.stringMatching(/up to today$/) })
    expect(await checkContact(t.ines, round, ids[0], 'phone')).toMatchObject({ may: false, title: 'Planned for later' })
    expect(await checkContact(t.ines, round, ids[0], 'email')).toMatchObject({ may: true })
    for (const person of ids) await made(person, 'sent')
    // Nothing is anybody's move until the calls are due.
    expect(await moved(round)).toBeUndefined()
    onDay(10)
    expect(await moved(round)).toMatchObject({ n: 3 })
    // The round's own email does not hold back its call.
    expect(await checkContact(t.ines, round, ids[0], 'phone')).toMatchObject({ may: true })
  })

  test('what is shared out to a colleague is their move from its day on', async () => {
    const { round } = await stepped()
    await shareFile(t.ines, round, 'phone', { colleagues: [{ id: t.tam.id, share: 1 }] })
    const theirs = async () => (await todayPage(t.tam)).moves.find(({ key }) => key === `share ${round} phone`)
    expect(await theirs()).toBeUndefined()
    onDay(10)
    expect(await theirs()).toMatchObject({ n: 3 })
  })

  test('spares whoever answered, by whichever way, and says so everywhere', async () => {
    const { round, ids } = await stepped()
    onDay(1)
    await made(ids[0], 'sent')
    onDay(2)
    // The contact by email is made good already: the answer belongs to no contact to come.
    await made(ids[0], 'replied')
    await made(ids[1], 'opened')
    expect(await calls(round)).toMatchObject({ planned: 3, open: 2, spared: 1 })
    expect(await phoned(round)).toHaveLength(2)
    // Two of three emails were made, and what was spared is not told as made.
    expect((await openRound(t.ines, round)).toCome).toEqual({ all: 5, open: 3 })
    const file = (await openRound(t.ines, round)).files.find(({ channel }) => channel === 'phone')
    expect(file).toMatchObject({ rows: 3, leftOut: 1 })
    onDay(11)
    await made(ids[2], 'sent')
    await recordContact(t.tam, ids[2], { channel: 'direct', result: 'sent', note: null, date: null })
    // Somebody else's contact outside the round still rests them; the round's own do not.
    expect(await checkContact(t.ines, round, ids[2], 'phone')).toMatchObject({ may: false, title: 'Contacted recently' })
    expect(await checkContact(t.ines, round, ids[1], 'phone')).toMatchObject({ may: true })
    expect(await checkContact(t.ines, round, ids[0], 'phone')).toMatchObject({ may: false, title: 'Not needed any more' })
    const { results } = await roundResults(t.ines, round)
    expect(results.counts).toMatchObject({ answered: 1, reached: 2 })
    await closeRound(t.ines, round)
    // Whoever was spared has no entry of work that was not done by phone.
    const left = await t.app('entry').where({ round_id: round, kind: 'not worked' }).select('person_id', 'channel')
    expect(left.filter((own) => own.person_id === ids[0])).toEqual([])
  })

  test('unless they were reached spares more, and in any case spares nobody', async () => {
    const reached = await stepped({ phone: { after: 3, unless: 'reached' } })
    onDay(1)
    await made(reached.ids[0], 'opened')
    await made(reached.ids[1], 'sent')
    expect(await calls(reached.round)).toMatchObject({ spared: 1, open: 2 })
    const always = await stepped({ phone: { after: 3, unless: null } })
    onDay(1)
    await made(always.ids[0], 'replied')
    expect(await calls(always.round)).toMatchObject({ spared: 0, open: 3 })
  })

  test('an answer that is taken back spares nothing, unless there is another', async () => {
    const { round, ids, k } = await stepped()
    onDay(2)
    const answers = async (file: string, ...rows: string[]) =>
      broughtIn(t.ines, file, `Id,Date,Channel,Result\n${rows.join('\n')}\n`, { kind: 'contacts' })
    const first = await answers(`first-${k}.csv`, `T${k}0,2026-09-03,email,replied`, `T${k}1,2026-09-03,email,replied`)
    onDay(3)
    await made(ids[1], 'spoke', 'met')
    expect(await calls(round)).toMatchObject({ spared: 2 })
    await undoBatch(t.marek, first)
    await runUndo(first)
    expect(await calls(round)).toMatchObject({ spared: 1, open: 2 })
    expect(await phoned(round)).toHaveLength(2)
  })

  test('what a merged record answered spares the one that stays, and no more once the merge is taken back', async () => {
    const { round, ids } = await stepped()
    onDay(2)
    await made(ids[0], 'replied')
    await mergePeople(t.ines, ids[1], ids[0])
    expect(await calls(round)).toMatchObject({ spared: 2, open: 1 })
    const counts = (await roundResults(t.ines, round)).results.counts
    expect(Object.values(counts).reduce((sum, own) => sum + own, 0)).toBe(3)
    expect(counts.answered).toBe(1)
    await takeBackMerge(t.ines, ids[0])
    expect(await calls(round)).toMatchObject({ spared: 1, open: 2 })
  })

  test('emails that are a later step do not leave before their day', async () => {
    const { round } = await stepped({ email: { after: 5, unless: 'answered' } })
    await expect(beginMail(t.ines, round, { seen: 'x', perMinute: 60 })).rejects.toThrow('planned for 6 Sep')
    onDay(5)
    await expect(beginMail(t.ines, round, { seen: 'x', perMinute: 60 })).rejects.toThrow('Write the letter first')
  })

  test('are kept by the next round, refused where they are none, and a change is told before it is released', async () => {
    const { list, round } = await stepped()
    onDay(100)
    const next = await startRound(t.ines, list)
    expect((await openRound(t.ines, next)).steps).toEqual(CALL_LATER)
    expect((await openRound(t.ines, next)).last?.differs).toEqual([])
    const basis = (await screenRound(t.ines, next, { tab: 'clear' })).basis as string
    await setSteps(t.ines, next, {})
    expect(await openRound(t.ines, next)).toMatchObject({ steps: null })
    expect((await openRound(t.ines, next)).last?.differs).toEqual([
      'Steps: everything at once; in round 1 phone 10 days later, unless they answered',
    ])
    const clear = { email: 3, phone: 3, post: 0, direct: 0 }
    await expect(releaseRound(t.ines, next, { basis, clear })).rejects.toThrow('changed since you opened this page')
    await expect(setSteps(t.ines, next, { phone: { after: 0 } })).rejects.toThrow(/not saved/)
    await expect(setSteps(t.ines, round, {})).rejects.toThrow('frozen')
    await releaseRound(t.ines, next)
    expect(await calls(next)).toBeUndefined()
    expect((await openRound(t.ines, next)).files[0].heading).not.toContain('Planned day')
  })
})
