import { describe, expect, test } from 'vitest'
import { pinClock } from '@/runtime/clock'
import { letThrough } from '@/usecases/screening/let-through'
import { mergePeople } from '@/usecases/directory/merge-people'
import { recordContact } from '@/usecases/contact/record-contact'
import type { Confirmed } from '@/core/views/round-views'
import { releaseRound } from '@/usecases/rounds/release-round'
import { roundFor } from '@/usecases/rounds/rounds'
import { screenRound } from '@/usecases/rounds/screen-round'
import { broughtIn } from '../../support/database'
import { liftSuppression } from '@/usecases/screening/lift-suppression'
import { setRules } from '@/usecases/rounds/set-rules'
import { openRound } from '@/usecases/rounds/open-round'
import { takeBackLetThrough } from '@/usecases/screening/take-back-let-through'
import { suppress } from '@/usecases/screening/suppress'
import { givenRounds, t, n, builtRound, releasedWhile, waitsAtTheGate, mailed, stateOf } from './released-while'

givenRounds()

const WORD = { reason: 'opt-out', channels: ['email', 'phone', 'post', 'direct'], word: 'a call' }

/** What the page of a round shows, which a release confirms. */
async function shown(round: number): Promise<Confirmed> {
  const { basis, figures } = await screenRound(t.ines, round, { tab: 'held' })
  return { basis: basis as string, clear: figures.clear }
}

/** Every way a suppression comes in; each stops the first of the three. */
const WAYS: [string, (of: Awaited<ReturnType<typeof builtRound>>) => Promise<unknown>][] = [
  ['a form of the person', ({ ids }) => suppress(t.tam, { person: ids[0] }, WORD)],
  ['a form of the address', ({ mail }) => suppress(t.tam, { text: mail[0] }, WORD)],
  ['a form of the domain', ({ mail }) => suppress(t.tam, { text: `@${mail[0].split('@')[1]}` }, WORD)],
  [
    'a form of the organisation',
    async ({ ids }) =>
      suppress(t.tam, { organisation: (await t.app('person').where({ id: ids[0] }).first('organisation_id')).organisation_id }, WORD),
  ],
  ['a contact that ended so', ({ ids }) => recordContact(t.tam, ids[0], { channel: 'email', result: 'asked us to stop' })],
  ['a file of suppressions', ({ mail }) => broughtIn(t.ines, `stop-${n}.csv`, `Email\n${mail[0]}\n`, { kind: 'suppressions' })],
  [
    'a file of contacts',
    ({ mail }) =>
      broughtIn(t.ines, `contacts-${n}.csv`, `Email,Date,Channel,Result\n${mail[0]},2026-06-15,email,asked us to stop\n`, {
        kind: 'contacts',
      }),
  ],
]

describe('an opt-out that comes while a round is being released is heeded', () => {
  test.each(WAYS)('by %s, which does not wait for the release', async (way, act) => {
    const built = await builtRound()
    const said = await releasedWhile(built.round, () => act(built))
    const everybody = way.includes('domain') || way.includes('organisation')
    if (everybody) {
      expect(said).toMatchObject({
        status: 'rejected',
        reason: expect.objectContaining({ message: expect.stringMatching(/Nobody is clear/) }),
      })
      expect(await stateOf(built.round)).toBe('being built')
    } else {
      expect(said.status).toBe('fulfilled')
      expect(await mailed(built.round)).toEqual(built.mail.slice(1))
      const { figures } = await screenRound(t.ines, built.round, { tab: 'held' })
      expect(figures).toMatchObject({ opening: 3, anyone: 2, heldBack: 1 })
    }
  })

  test('by a merge with somebody who had opted out', async () => {
    const built = await builtRound()
    await broughtIn(t.ines, 'other.csv', `Id,Name,Email\nOTHER,Adam Other,other@elsewhere.example\n`)
    const other = (await t.app('person').where({ outside_id: 'OTHER' }).first('id')).id
    await suppress(t.tam, { person: other }, WORD)
    expect((await releasedWhile(built.round, () => mergePeople(t.ines, built.ids[0], other))).status).toBe('fulfilled')
    expect(await mailed(built.round)).toEqual(built.mail.slice(1))
  })

  test('whoever writes one when the gate is about to be shut is waited for, and the moment is taken after', async () => {
    const built = await builtRound()
    const { writeSuppressions } = await import('@/usecases/screening/suppress-people')
    const writing = await t.app.transaction()
    await writeSuppressions(writing, [
      { of: { email: built.mail[0] }, reason: 'opt-out', channels: ['email'], since: null, until: null, word: 'a call', actor: t.tam.id },
    ])
    pinClock(new Date('2026-06-15T09:05:00Z'))
    const releasing = releaseRound(t.ines, built.round)
    await waitsAtTheGate()
    // Time goes on while it waits.
    pinClock(new Date('2026-06-15T09:07:00Z'))
    await writing.commit()
    await releasing
    expect(await mailed(built.round)).toEqual(built.mail.slice(1))
    const { round } = await roundFor(t.ines, built.round)
    expect([round.released_at, round.as_of]).toEqual([new Date('2026-06-15T09:07:00Z'), new Date('2026-06-15T09:07:00Z')])
  })

  test('one entered earlier that begins between the freeze and the moment is caught by the last look', async () => {
    const built = await builtRound()
    pinClock(new Date('2026-06-15T10:00:00Z'))
    const { writeSuppressions } = await import('@/usecases/screening/suppress-people')
    await t.app.transaction((trx) =>
      writeSuppressions(trx, [
        {
          of: { email: built.mail[0] },
          reason: 'opt-out',
          channels: ['email'],
          since: new Date('2026-06-15T10:01:00Z'),
          until: null,
          word: 'from then on',
          actor: t.tam.id,
        },
      ]),
    )
    await releasedWhile(built.round, async () => pinClock(new Date('2026-06-15T10:02:00Z')))
    expect(await mailed(built.round)).toEqual(built.mail.slice(1))
  })

  test('a contact, a new relation and another address are heeded too; a change that decides nothing does not hold it up', async () => {
    const built = await builtRound()
    expect(
      (
        await releasedWhile(built.round, async () => {
          await recordContact(t.tam, built.ids[0], { channel: 'email', result: 'sent' })
          await broughtIn(
            t.ines,
            'update.csv',
            `Id,Name,Status,Tags\nBen${n},Ben Number${'abcdefghijklmnopqrstuvwxyz'[n]},customer,\nCyd${n},Cyd Number${'abcdefghijklmnopqrstuvwxyz'[n]},,seen\n`,
          )
        })
      ).status,
    ).toBe('fulfilled')
    expect(await mailed(built.round)).toEqual([built.mail[2]])
  })
})

describe('what a round goes by is compared under its lock, by what is in it', () => {
  /** Holds the rows of the list and the round while a release comes to wait for them; `change` is then made beside it. */
  async function changedBefore(round: number, list: number, change: (trx: typeof t.app) => Promise<unknown>) {
    const holder = await t.app.transaction()
    await holder('list').where({ id: list }).forNoKeyUpdate().first('id')
    const releasing = Promise.allSettled([releaseRound(t.ines, round)])
    for (let i = 0; i < 200; i++) {
      const { rows } = await t.owner.raw(
        `select 1 from pg_stat_activity where wait_event_type = 'Lock' and query ilike '%"list"%' and datname = current_database()`,
      )
      if (rows.length > 0) break
      await new Promise((resolve) => setTimeout(resolve, 25))
    }
    await change(holder as unknown as typeof t.app)
    await holder.commit()
    return (await releasing)[0]
  }
  const refusedFor = (said: PromiseSettledResult<void>) => (said.status === 'rejected' ? (said.reason as Error).message : 'released')

  test('rules that were changed are neither acted against nor written over', async () => {
    const { round, list } = await builtRound()
    const rules = (await openRound(t.ines, round)).rules
      .map((r) => r.rule)
      .map((r) => (r.kind === 'contacted-within' ? { ...r, days: 90 } : r))
    const said = await changedBefore(round, list, (trx) =>
      trx('round')
        .where({ id: round })
        .update({ rules: JSON.stringify(rules) }),
    )
    expect(refusedFor(said)).toMatch(/The rules of this round were changed just now. Nothing was released/)
    expect((await roundFor(t.ines, round)).round.rules).toContainEqual(expect.objectContaining({ kind: 'contacted-within', days: 90 }))
  })

  test('one let through in another’s place is another basis, though they are as many', async () => {
    const { round, list, ids } = await builtRound()
    for (const id of ids.slice(0, 2)) await suppress(t.tam, { person: id }, { ...WORD, reason: 'other' })
    await letThrough(t.ines, round, ids[0], 'email', 'asked for it')
    const said = await changedBefore(round, list, async (trx) => {
      await trx('let_through').where({ round_id: round, person_id: ids[0] }).update({ taken_back_at: new Date(), taken_back_by: t.ines.id })
      await trx('let_through').insert({
        round_id: round,
        person_id: ids[1],
        channel: 'email',
        reason: 'asked for it',
        actor_id: t.ines.id,
        at: new Date('2026-06-15T10:02:00Z'),
      })
    })
    expect(refusedFor(said)).toMatch(/Somebody was let through, or a let-through was taken back, just now/)
    await takeBackLetThrough(t.ines, round, ids[1], 'email')
  })

  test('a release that was asked for on an older page is refused', async () => {
    const { round } = await builtRound()
    const before = await shown(round)
    await setRules(
      t.marek,
      round,
      (await openRound(t.ines, round)).rules.map((r) => r.rule).map((r) => (r.kind === 'contacted-within' ? { ...r, days: 5 } : r)),
    )
    await expect(releaseRound(t.ines, round, before)).rejects.toThrow(/changed since you opened this page. Nothing was released/)
    await releaseRound(t.ines, round, await shown(round))
    expect(await stateOf(round)).toBe('released')
  })

  test('a release that would reach more than were confirmed is refused; one that reaches fewer goes on', async () => {
    const { round, ids, mail } = await builtRound()
    await suppress(t.tam, { person: ids[0] }, { ...WORD, reason: 'other' })
    const two = await shown(round)
    expect(two.clear.email).toBe(2)
    const [{ id }] = await t.app('suppression').where({ person_id: ids[0] }).select('id')
    await liftSuppression(t.ines, id, 'they wrote that they like letters')
    await expect(releaseRound(t.ines, round, two)).rejects.toThrow(
      'The list, or who is held back, changed since you confirmed: 3 people can be contacted by email, not 2. Nothing was released. Look at the screening once more, then release the round.',
    )
    expect(await stateOf(round)).toBe('being built')
    const three = await shown(round)
    await suppress(t.tam, { person: ids[1] }, WORD)
    await releaseRound(t.ines, round, three)
    expect(await mailed(round)).toEqual([mail[0], mail[2]])
  })

  test('who came in while it was being released and was not confirmed is not reached', async () => {
    const { round, ids } = await builtRound()
    await suppress(t.tam, { person: ids[0] }, { ...WORD, reason: 'other' })
    const confirmed = await shown(round)
    const [{ id }] = await t.app('suppression').where({ person_id: ids[0] }).select('id')
    const said = await releasedWhile(round, () => liftSuppression(t.ines, id, 'they asked'), confirmed)
    expect(refusedFor(said)).toMatch(/3 people can be contacted by email, not 2. Nothing was released/)
    expect(await stateOf(round)).toBe('being built')
  })
})
