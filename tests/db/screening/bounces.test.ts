import { describe, expect, test } from 'vitest'
import { pinClock } from '@/runtime/clock'
import { batchAccount } from '@/usecases/intake/batch-account'
import { takeBackMerge } from '@/usecases/directory/take-back-merge'
import { mergePeople } from '@/usecases/directory/merge-people'
import { openPerson } from '@/usecases/directory/open-person'
import { undoBatch } from '@/usecases/intake/undo-batch'
import { runUndo } from '@/usecases/intake/run-undo'
import { setRules } from '@/usecases/rounds/set-rules'
import { firstPolicy } from '@/core/screening/rules'
import { createList } from '@/usecases/lists/create-list'
import { screenRound } from '@/usecases/rounds/screen-round'
import { startRound } from '@/usecases/rounds/start-round'
import { broughtIn } from '../../support/database'
import { givenStopped, HEADER, idOf, t } from './stopped'

givenStopped()

const AT = new Date('2026-06-15T10:00:00Z')

/** Who of everybody is closed by a failed email, and what it rests on. */
async function failed(): Promise<Record<string, string | undefined>> {
  if (round === undefined) {
    round = await startRound(t.ines, await createList(t.ines, 'Everybody', true, [{ id: 's', verb: 'start', off: false, batch: null }]))
    const rules = firstPolicy().map((rule) => (rule.kind === 'address-failed' ? { ...rule, soft: 3, softDays: 30 } : rule))
    await setRules(t.ines, round, rules)
  }
  const { page } = await screenRound(t.ines, round, { tab: 'rule', rule: 'address-failed', channel: 'email' })
  return Object.fromEntries(page.people.map((p) => [p.name, p.because?.detail]))
}
let round: number | undefined

const contacts = (rows: string) => broughtIn(t.ines, 'bounces.csv', `Id,Date,Channel,Result\n${rows}`, { kind: 'contacts' })

describe('soft bounces', () => {
  test('close an email once there are three in thirty days, and open it again when one arrives, goes back or is too long ago', async () => {
    pinClock(AT)
    await contacts('S1,2026-06-01,email,soft bounced\nS1,2026-06-08,email,4.2.2\n')
    expect(await failed()).toEqual({})
    expect((await openPerson(t.ines, await idOf('S1'))).addresses[0]).toMatchObject({
      usable: true,
      why: '2 soft bounces, the last on 8 Jun 2026',
    })
    const third = await contacts('S1,2026-06-12,email,452 4.2.2 mailbox full\nS2,2026-06-12,email,550 5.1.1 no such user\n')
    expect(await failed()).toEqual({
      'Ann Able': '3 soft bounces, the last on 12 Jun 2026: ann@north.example',
      'Bob Bell': 'Bounced on 12 Jun 2026: bob@north.example',
    })
    // The file that is undone takes its own back, and only those.
    await undoBatch(t.marek, third)
    await runUndo(third)
    expect(await failed()).toEqual({})
    await contacts('S1,2026-06-13,email,soft bounce\n')
    expect(Object.keys(await failed())).toEqual(['Ann Able'])
    const opened = await contacts('S1,2026-06-14,email,opened\n')
    expect(await failed()).toEqual({})
    await undoBatch(t.marek, opened)
    await runUndo(opened)
    expect(Object.keys(await failed())).toEqual(['Ann Able'])
    // On the thirtieth day the first of them still counts; a day later it does not.
    pinClock(new Date('2026-07-01T10:00:00Z'))
    expect(Object.keys(await failed())).toEqual(['Ann Able'])
    pinClock(new Date('2026-07-02T10:00:00Z'))
    expect(await failed()).toEqual({})
    pinClock(AT)
  })

  test('are counted of emails alone, whatever a file calls the outcome of a call', async () => {
    await contacts('S4,2026-06-01,phone,soft bounced\nS4,2026-06-02,phone,soft bounced\nS4,2026-06-03,phone,soft bounced\n')
    const { page } = await screenRound(t.ines, round as number, { tab: 'rule', rule: 'address-failed', channel: 'phone' })
    expect(page.people.map((p) => p.name)).not.toContain('Dot Dean')
    expect((await openPerson(t.ines, await idOf('S4'))).addresses.every((a) => a.why === null)).toBe(true)
  })

  test('of two records that are found to be one are counted together, and a hard bounce of one holds for both', async () => {
    await broughtIn(
      t.ines,
      'twice.csv',
      `${HEADER}B1,Una Twice,,una@twice.example,,,,,\nB2,Una Twiss,,una@twice.example,,,,,\nB3,Vic Twice,,vic@twice.example,,,,,\nB4,Vic Twiss,,vic@twice.example,,,,,\n`,
    )
    expect(
      (
        await batchAccount(
          t.ines,
          await contacts(
            'B1,2026-06-02,email,soft bounced\nB2,2026-06-03,email,soft bounced\nB2,2026-06-04,email,soft bounced\nB4,2026-06-04,email,bounced\n',
          ),
        )
      ).counts.new,
    ).toBe(4)
    expect(Object.keys(await failed()).sort()).toEqual(['Ann Able', 'Vic Twiss'])
    await mergePeople(t.ines, await idOf('B1'), await idOf('B2'))
    await mergePeople(t.ines, await idOf('B3'), await idOf('B4'))
    expect(Object.keys(await failed()).sort()).toEqual(['Ann Able', 'Una Twice', 'Vic Twice'])
    await takeBackMerge(t.ines, await idOf('B2'))
    await takeBackMerge(t.ines, await idOf('B4'))
    expect(Object.keys(await failed()).sort()).toEqual(['Ann Able', 'Vic Twiss'])
  })
})
