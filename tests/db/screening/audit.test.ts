import { describe, expect, test } from 'vitest'
import { newRule } from '@/core/screening/new-rule'
import { firstPolicy, type Rule } from '@/core/screening/rules'
import { writeEntries } from '@/db/ledger'
import { pinClock } from '@/runtime/clock'
import { recordContact } from '@/usecases/contact/record-contact'
import { mergePeople } from '@/usecases/directory/merge-people'
import { createList } from '@/usecases/lists/create-list'
import { closeRound } from '@/usecases/rounds/close-round'
import { releaseRound } from '@/usecases/rounds/release-round'
import { roundFile } from '@/usecases/rounds/round-file'
import { setRules } from '@/usecases/rounds/set-rules'
import { startRound } from '@/usecases/rounds/start-round'
import { audit } from '@/usecases/screening/audit'
import { carryBack, carryOptOut } from '@/usecases/screening/carry-opt-out'
import { letThrough } from '@/usecases/screening/let-through'
import { liftSuppression } from '@/usecases/screening/lift-suppression'
import { suppress } from '@/usecases/screening/suppress'
import { broughtIn } from '../../support/database'
import { givenRounds, start, t } from '../rounds/released-while'

givenRounds()

const HEAD = 'Id,Name,Email,Phone,Country,Status\n'
const STOP = { reason: 'opt-out', channels: ['email', 'phone', 'post', 'direct'], word: 'a call' }
let made = 0
async function built(rows: string[], rules: Rule[] = firstPolicy()) {
  const k = ++made
  const batch = await broughtIn(t.ines, `audit-${k}.csv`, HEAD + rows.join('\n'))
  const people = await t.app('person').where({ batch_id: batch }).select('id', 'given')
  const list = await createList(t.ines, `Audit ${k}`, true, [{ ...start, batch: { id: batch, name: 'audit' } } as never])
  const round = await startRound(t.ines, list)
  await setRules(t.ines, round, rules)
  return { round, list, id: Object.fromEntries(people.map((p) => [p.given, p.id])) as Record<string, number> }
}
const at = (iso: string) => pinClock(new Date(iso))

describe('contacts in breach', () => {
  test('are those against what was known by then, and nothing else', async () => {
    at('2026-06-15T09:00:00Z')
    const { id } = await built([
      'A1,Ann Audit,ann@audit.example,0113 496 0201,,',
      'A2,Bea Audit,bea@audit.example,0113 496 0202,,',
      'A3,Cat Audit,cat@audit.example,0113 496 0203,,',
      'A4,Dee Audit,dee@audit.example,0113 496 0204,,',
    ])
    expect((await audit(t.ines, 30)).breaches).toEqual([])
    await suppress(t.tam, { person: id.Ann }, STOP)
    await suppress(t.tam, { text: 'bea@audit.example' }, STOP)
    const lifted = await suppress(t.tam, { person: id.Cat }, STOP)
    // The one that says so is none, though it makes a suppression itself.
    await recordContact(t.tam, id.Dee, { channel: 'phone', result: 'asked us to stop' })
    at('2026-06-15T10:00:00Z')
    await liftSuppression(t.ines, lifted, 'a mistake')
    at('2026-06-15T11:00:00Z')
    await recordContact(t.tam, id.Ann, { channel: 'phone', result: 'spoke' })
    // By another address than the one that is suppressed.
    await recordContact(t.tam, id.Bea, { channel: 'phone', result: 'spoke' })
    await recordContact(t.tam, id.Cat, { channel: 'phone', result: 'spoke' })
    // They met: no channel of theirs.
    await recordContact(t.tam, id.Ann, { channel: 'met', result: 'spoke' })
    // One of before, entered late.
    await recordContact(t.tam, id.Dee, { channel: 'phone', result: 'no answer', date: '2026-06-10' })
    const { breaches } = await audit(t.ines, 30)
    expect(breaches).toEqual([
      {
        person: id.Ann,
        name: 'Ann Audit',
        at: '2026-06-15T11:00:00.000Z',
        channel: 'phone',
        by: t.tam.name,
        reason: 'opt-out',
        recordedAt: '2026-06-15T09:00:00.000Z',
        word: 'a call',
      },
    ])
    // However many there are, all are counted.
    const many = Array.from({ length: 505 }, () => ({
      person: id.Ann,
      kind: 'contact' as const,
      at: new Date('2026-06-15T11:00:00Z'),
      actor: t.tam.id,
      channel: 'phone' as const,
      result: 'no answer',
    }))
    await t.app.transaction((trx) => writeEntries(trx, many, new Date('2026-06-15T11:00:00Z')))
    const crowded = await audit(t.ines, 30)
    expect([crowded.breaches.length, crowded.found.breaches]).toEqual([500, 506])
    await t.owner('entry').where({ person_id: id.Ann, result: 'no answer' }).del()
    expect((await audit(t.ines, 30)).found).toMatchObject({ breaches: 1, toCarry: 0, ending: 0, through: 0 })
    // Found to be one only later: what was known of the other is no breach of before.
    const other = await built(['A9,Eli Audit,eli@audit.example,0113 496 0209,,'])
    await mergePeople(t.ines, id.Bea, other.id.Eli)
    await suppress(t.tam, { person: id.Cat }, STOP)
    at('2026-06-15T11:30:00Z')
    await mergePeople(t.ines, id.Dee, id.Cat)
    expect((await audit(t.ines, 30)).breaches.map((b) => b.name)).toEqual(['Ann Audit'])
    at('2026-08-15T11:00:00Z')
    expect((await audit(t.ines, 30)).breaches).toEqual([])
    expect((await audit(t.ines, 90)).breaches).toHaveLength(1)
    at('2026-06-15T12:00:00Z')
  })
})

describe('opt-outs to carry', () => {
  test('are those whose file had left, each with the day the law gives by country, until somebody says they were', async () => {
    const { round, id } = await built([
      'B1,Eve Audit,eve@audit.example,,United States,',
      'B2,Fay Audit,fay@audit.example,,,',
      'B3,Gus Audit,gus@audit.example,,United States,',
    ])
    await releaseRound(t.ines, round)
    // Before anybody has the file there is nothing to carry.
    await suppress(t.tam, { person: id.Gus }, STOP)
    at('2026-06-15T13:00:00Z')
    await roundFile(t.ines, round, 'email')
    at('2026-06-15T14:00:00Z')
    await suppress(t.tam, { person: id.Eve }, STOP)
    await suppress(t.tam, { person: id.Fay }, STOP)
    const { toCarry } = await audit(t.ines, 30)
    expect(toCarry.map((own) => [own.name, own.channel, own.since, own.by, own.late, own.takenBy])).toEqual([
      // Ten business days, and 19 June is a holiday.
      ['Eve Audit', 'email', '2026-06-15', '2026-06-30', false, [t.ines.name]],
      ['Fay Audit', 'email', '2026-06-15', '2026-06-15', false, [t.ines.name]],
    ])
    await expect(carryOptOut(t.tam, round, id.Eve, 'email')).rejects.toThrow(/coordinators and managers/)
    await carryOptOut(t.ines, round, id.Eve, 'email')
    await carryOptOut(t.ines, round, id.Eve, 'email')
    expect(await t.app('opt_out_carried').where({ round_id: round })).toHaveLength(1)
    // Said by mistake: it is due again, and may be said again; what was taken back stays on record.
    const due = async () => (await audit(t.ines, 30)).toCarry.map((own) => own.name)
    expect(await due()).toEqual(['Fay Audit'])
    await expect(carryBack(t.tam, round, id.Eve, 'email')).rejects.toThrow(/coordinators and managers/)
    expect([await carryBack(t.ines, round, id.Eve, 'email'), await carryBack(t.ines, round, id.Eve, 'email')]).toEqual([true, false])
    expect(await due()).toEqual(['Eve Audit', 'Fay Audit'])
    await Promise.all([carryOptOut(t.ines, round, id.Eve, 'email'), carryOptOut(t.ines, round, id.Eve, 'email')])
    expect(await t.app('opt_out_carried').where({ round_id: round, back_at: null })).toHaveLength(1)
    expect(await t.app('opt_out_carried').where({ round_id: round })).toHaveLength(2)
    at('2026-06-16T09:00:00Z')
    expect((await audit(t.ines, 30)).toCarry.map((own) => [own.name, own.late])).toEqual([['Fay Audit', true]])
    await closeRound(t.ines, round)
  })
})

test('rules that closed nothing in three rounds or held back nearly everybody are told; who let whom through as well', async () => {
  at('2026-06-20T09:00:00Z')
  const rows = ['C1,Hal Audit,hal@audit.example,,,customer', 'C2,Ida Audit,ida@audit.example,,,']
  const policy: Rule[] = [...firstPolicy(), { ...newRule('attempts', []), most: 50 } as Rule]
  for (const k of [1, 2, 3]) {
    const { round, id } = await built(
      rows.map((row) => row.replace(/C(\d)/, `C${k}$1`).replace('@', `${k}@`)),
      policy,
    )
    if (k === 1) await letThrough(t.ines, round, id.Hal, 'email', 'they asked for a visit')
    await releaseRound(t.ines, round)
    await closeRound(t.ines, round)
  }
  const { rules, through } = await audit(t.ines, 3)
  expect(rules.find((rule) => rule.rule === 'Attempts without an answer')).toMatchObject({ is: 'nobody', rounds: 3, heldBack: 0 })
  expect(rules.some((rule) => rule.rule === 'Customers and our own people')).toBe(false)
  expect((await audit(t.ines, 3)).found.through).toBe(1)
  expect(through).toEqual([{ by: t.ines.name, reason: 'they asked for a visit', people: 1, last: expect.any(String) }])
  // Every usable address of theirs is closed by a rule that nobody passes.
  const strict = await built(Array.from({ length: 10 }, (_, i) => `D${i},Kim${i} Audit,kim${i}@audit.example,,,${i < 9 ? 'customer' : ''}`))
  await releaseRound(t.ines, strict.round)
  await closeRound(t.ines, strict.round)
  at('2026-06-20T10:00:00Z')
  const again = await audit(t.ines, 3)
  // In the rounds before the same rule held back one of two, so it does not stand out.
  expect(again.rules.some((rule) => rule.is === 'nearly everybody')).toBe(false)
  await expect(audit(t.tam, 30)).rejects.toThrow(/coordinators and managers/)
  at('2026-06-15T09:00:00Z')
})
