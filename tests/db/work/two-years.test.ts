import { expect, test } from 'vitest'
import { stringify } from 'csv-stringify/sync'
import type { Line } from '@/core/lists/line'
import { CHANNELS, type Channel } from '@/core/records/channels'
import { firstPolicy, type Rule } from '@/core/screening/rules'
import { newRule } from '@/core/screening/new-rule'
import { pinClock } from '@/runtime/clock'
import { recordContact } from '@/usecases/contact/record-contact'
import { erasePerson } from '@/usecases/directory/erase-person'
import { mergePeople } from '@/usecases/directory/merge-people'
import { createList } from '@/usecases/lists/create-list'
import { checkContact } from '@/usecases/rounds/check-contact'
import { releaseRound } from '@/usecases/rounds/release-round'
import { setRules } from '@/usecases/rounds/set-rules'
import { startRound } from '@/usecases/rounds/start-round'
import { audit } from '@/usecases/screening/audit'
import { liftSuppression } from '@/usecases/screening/lift-suppression'
import { suppress } from '@/usecases/screening/suppress'
import { Refused } from '@/usecases/team/actor'
import { cells, HEADER, pellowCounty } from '../../../demo/county'
import { Random } from '@/core/checks/random'
import { broughtIn, freshDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'

const DAY = 86_400_000
const DAYS = 730
const BEGIN = Date.parse('2024-06-03T08:00:00Z')
const start: Line = { id: 's', verb: 'start', off: false, batch: null }

/** What the test itself knows of who must not be contacted: kept apart from the application, by address and not by record. */
interface Stop {
  /** The suppression, where it may be lifted. */
  id?: number
  from: number
  until: number
  channel: Channel
  value: string
}

test('two years of the county, day by day, with opt-outs landing in the middle of releases: no contact is made in breach', async () => {
  const t = await freshDatabase(new Date(BEGIN).toISOString())
  const engine = await startEngine(t)
  const random = new Random(20_24)
  const county = pellowCounty().people.slice(0, 260)
  const stops: Stop[] = []
  const made: { at: number; channel: Channel; to: string }[] = []
  let clock = BEGIN
  const goTo = (at: number) => {
    clock = at
    pinClock(new Date(at))
  }
  const addressesOf = async (person: number): Promise<{ channel: Channel; value: string }[]> =>
    t.app('address').where({ person_id: person, usable: true }).whereIn('channel', ['email', 'phone']).select('channel', 'value')
  const somebody = async (): Promise<number | null> => {
    const rows = await t.app('person').where({ state: 'live' }).orderBy('id').offset(random.below(230)).limit(1).select('id')
    return rows[0]?.id ?? null
  }
  /** Somebody asks to be left alone, by everything they have; what is known of them by then is stopped from now on. */
  const optOut = async (person: number, reason = 'opt-out') => {
    const own = await addressesOf(person)
    const id = await suppress(t.tam, { person }, { reason, channels: [...CHANNELS], word: 'a call' }).catch((error) => {
      if (error instanceof Refused) return null
      throw error
    })
    if (id === null) return null
    for (const { channel, value } of own) stops.push({ id, from: clock, until: Number.POSITIVE_INFINITY, channel, value })
    return id
  }

  await broughtIn(t.ines, 'county.csv', stringify([[...HEADER], ...county.slice(0, 190).map(cells)]))
  const policy: Rule[] = [
    ...firstPolicy(),
    { ...newRule('per-organisation', []), most: 4 } as Rule,
    { ...newRule('same-address', []) } as Rule,
  ]
  const lists = [
    await createList(t.ines, 'Everybody', true, [start]),
    await createList(t.ines, 'Prospects', true, [
      start,
      { id: 'k', verb: 'keep', off: false, unknownAsYes: true, criterion: { kind: 'relation', any: ['prospect'] } } as Line,
    ]),
  ]
  const liftable: { id: number; at: number }[] = []
  let lifted = 0
  let releases = 0
  let during = 0
  let stopped = 0
  let newcomers = 190

  for (let day = 0; day < DAYS; day++) {
    goTo(BEGIN + day * DAY)
    if (day % 45 === 20 && newcomers < county.length) {
      await broughtIn(t.ines, `new-${day}.csv`, stringify([[...HEADER], ...county.slice(newcomers, newcomers + 6).map(cells)]))
      newcomers += 6
    }
    if (day % 28 === 1) {
      const listed = (await t.app('address').where({ channel: 'phone', usable: true }).orderBy('id').select('value')).filter(
        (_, i) => i % 9 === Math.floor(day / 28) % 3,
      )
      const version = new Date(clock).toISOString().slice(0, 10)
      await broughtIn(t.ines, `register-${day}.csv`, `Phone\n${listed.map((a) => a.value).join('\n')}\n`, {
        kind: 'suppressions',
        register: { name: 'County register', version },
      })
      for (const { value } of listed) stops.push({ from: clock, until: Number.POSITIVE_INFINITY, channel: 'phone', value })
    }
    // Asked to stop, complained, paused, lifted again, found to be one, erased.
    if (random.chance(0.12)) {
      const who = await somebody()
      const id = who === null ? null : await optOut(who, random.chance(0.2) ? 'complaint' : 'opt-out')
      if (id !== null && random.chance(0.25)) liftable.push({ id, at: clock })
    }
    if (liftable.length > 0 && clock - liftable[0].at > 40 * DAY) {
      const { id } = liftable.shift() as { id: number }
      await liftSuppression(t.ines, id, 'they signed up again')
      for (const stop of stops) if (stop.id === id) stop.until = clock
      lifted++
    }
    if (random.chance(0.03)) {
      const who = await somebody()
      const until = clock + 30 * DAY
      if (who !== null) {
        const own = await addressesOf(who)
        await suppress(
          t.tam,
          { person: who },
          { reason: 'agreed pause', channels: [...CHANNELS], word: 'on holiday', until: new Date(until).toISOString().slice(0, 10) },
        )
        // It ends with the day before, in the team's zone.
        for (const { channel, value } of own) stops.push({ from: clock, until: until - 2 * DAY, channel, value })
      }
    }
    if (day % 60 === 33) {
      const [a, b] = [await somebody(), await somebody()]
      if (a !== null && b !== null && a !== b) await mergePeople(t.ines, a, b)
    }
    if (day % 120 === 77) {
      const who = await somebody()
      if (who !== null) {
        const own = await addressesOf(who)
        const shared = new Set(
          (
            await t
              .app('address')
              .whereIn(
                'value',
                own.map((o) => o.value),
              )
              .whereNot({ person_id: who })
              .select('value')
          ).map((a) => a.value),
        )
        await erasePerson({ ...t.ines, post: 'manager' }, who)
        for (const { channel, value } of own)
          if (!shared.has(value)) stops.push({ from: clock, until: Number.POSITIVE_INFINITY, channel, value })
      }
    }
    if (day % 14 === 2) {
      goTo(clock + 3_600_000)
      const round = await startRound(t.ines, lists[((day / 14) % 2) | 0])
      await setRules(t.ines, round, policy)
      await engine.model.catchUp()
      const releasing = Promise.allSettled([releaseRound(t.ines, round)])
      if (random.chance(0.5)) {
        const who = await somebody()
        if (who !== null) await optOut(who)
        during++
      }
      const [said] = await releasing
      if (said.status === 'rejected') {
        if (!(said.reason instanceof Refused)) throw said.reason
      } else releases++
      if (said.status === 'fulfilled') await work(round)
    }
  }

  /** Works through some of what a round is still to do over the next days, asking before each contact. */
  async function work(round: number): Promise<void> {
    const due: { person_id: number; channel: Channel }[] = await t
      .app('contact_to_come')
      .where({ round_id: round })
      .orderBy(['person_id', 'channel'])
      .select('person_id', 'channel')
    for (const { person_id, channel } of due.filter(() => random.chance(0.12))) {
      goTo(clock + 60_000)
      // Meanwhile somebody else may ask to stop, this very person among them.
      if (random.chance(0.05)) await optOut(person_id).catch(() => null)
      const check = await checkContact(t.ines, round, person_id, channel)
      if (!check.may) {
        stopped++
        continue
      }
      goTo(clock + 60_000)
      const root = await t.app('person').where({ id: person_id }).first('id', 'merged_into')
      await recordContact(t.tam, root.merged_into ?? root.id, { channel, result: random.pick(['no answer', 'spoke', 'sent']) })
      if (channel === 'email' || channel === 'phone') made.push({ at: clock, channel, to: check.to })
    }
  }

  // The test's own account of it: nothing went where somebody had asked to be left alone.
  const against = made.filter((contact) =>
    stops.some(
      (stop) => stop.channel === contact.channel && stop.value === contact.to && stop.from < contact.at && contact.at < stop.until,
    ),
  )
  expect(against).toEqual([])
  // And the application's: the ledger against what was known on each day.
  expect((await audit(t.ines, 366)).breaches).toEqual([])
  goTo(BEGIN + 365 * DAY)
  expect((await audit(t.ines, 366)).breaches).toEqual([])
  expect(lifted).toBeGreaterThan(3)
  expect(releases).toBeGreaterThan(40)
  expect(during).toBeGreaterThan(15)
  expect(stopped).toBeGreaterThan(5)
  expect(made.length).toBeGreaterThan(150)
}, 400_000)
