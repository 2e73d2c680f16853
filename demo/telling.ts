import type { Criterion } from '@/core/criteria/registry'
import type { Line } from '@/core/lists/line'
import type { BatchOptions } from '@/core/views/intake-views'
import { db } from '@/db/connection'
import { writeEntries } from '@/db/ledger'
import { now, pinClock } from '@/runtime/clock'
import type { Actor } from '@/usecases/team/actor'
import { recordContacts } from '@/usecases/contact/contact-people'
import { createList } from '@/usecases/lists/create-list'
import { saveEdition } from '@/usecases/lists/save-edition'
import { batchOf } from '@/usecases/intake/batch-for'
import { receiveFile } from '@/usecases/intake/receive-file'
import { releaseRound } from '@/usecases/rounds/release-round'
import { runBatch } from '@/usecases/intake/run-batch'
import { type NewSuppression, writeSuppressions } from '@/usecases/screening/suppress-people'
import { actOnChange } from '@/usecases/changes/act-on-change'
import { bringChanges } from '@/usecases/changes/bring-changes'
import { changesPage, lookedAtChanges } from '@/usecases/changes/changes-page'
import { cells, type County } from './county'
import { Random } from '@/core/checks/random'
import { latestEdition } from '@/db/lists/list-rows'
import { type Channel, CHANNELS } from '@/core/records/channels'
import { startBatch } from '@/usecases/intake/start-batch'
import { startRound } from '@/usecases/rounds/start-round'
import { closeRound } from '@/usecases/rounds/close-round'

const DAY = 86_400_000

/** How a story is told: files that come in, lists, rounds and contacts, each on its day. */
export class Telling {
  protected readonly random = new Random(4711)
  protected readonly today = Math.floor(Date.now() / DAY) * DAY + 9 * 3_600_000
  protected readonly lists = new Map<string, number>()

  constructor(
    protected readonly county: County,
    protected readonly actors: Actor[],
    protected readonly say: (line: string) => void,
  ) {}

  protected get ines() {
    return this.actors[0]
  }
  protected get callers() {
    return this.actors.slice(1, 3)
  }
  protected get marek() {
    return this.actors[3]
  }

  protected goTo(daysAgo: number): void {
    pinClock(new Date(this.today - daysAgo * DAY))
  }

  /** Cards of some who stand in the directory already, typed in by somebody in a hurry. */
  protected cards(): string {
    const random = new Random(31)
    const slip = (name: string) => {
      const at = 1 + random.below(Math.max(1, name.length - 2))
      return random.chance(0.5)
        ? name.slice(0, at) + name.slice(at + 1)
        : name.slice(0, at) + (name[at + 1] ?? '') + name[at] + name.slice(at + 2)
    }
    const rows = this.county.people
      .filter((p, i) => i % 190 === 17 && p.organisation !== '' && p.given.length > 3)
      .map((p, i) => {
        const [given, family] =
          i % 4 === 0
            ? [slip(p.given), p.family]
            : i % 4 === 1
              ? [p.given, slip(p.family)]
              : i % 4 === 2
                ? [p.family, p.given]
                : [`${p.given[0]}.`, p.family]
        return [given, family, p.role, p.organisation, i % 3 === 0 ? p.email : '', i % 2 === 0 ? p.phone : '', p.town]
          .map((cell) => `"${cell.replaceAll('"', '""')}"`)
          .join(',')
      })
    return ['First name,Last name,Role,Organisation,Email,Phone,Town', ...rows].join('\r\n')
  }

  /** Everybody looks through their changes, so that their next account opens with what is left. */
  protected async look(): Promise<void> {
    await bringChanges()
    for (const actor of this.actors) await lookedAtChanges(actor)
  }

  /** Colleagues settle a share of the changes they hear of, on days between two. */
  protected async settleChanges(from: number, to: number, share = 0.8): Promise<void> {
    await bringChanges()
    for (const actor of this.actors) {
      const { rows } = await changesPage(actor, { tab: 'all', list: null, freshness: null, offset: 0 }, 100_000)
      for (const row of rows) {
        if (!this.random.chance(share)) continue
        this.goTo(to + this.random.below(from - to + 1))
        await actOnChange(
          actor,
          row.id,
          this.random.weigh([['handle', 8] as const, ['set aside', 1] as const, ['take', 1] as const]),
        ).catch(() => {})
      }
    }
    this.goTo(to)
  }

  protected async bringIn(name: string, csv: string, options: BatchOptions = {}, of: 'people' | 'premises' = 'people'): Promise<void> {
    const id = await receiveFile(this.ines, { name, bytes: Buffer.from(csv, 'utf8'), kind: options.register ? 'suppressions' : of })
    const { kind, mapping } = await batchOf(id)
    // Brought in as teams did before likeness was asked about, so that there are doubles to be found.
    await startBatch(this.ines, id, { kind, mapping }, { ...options, byKeysAlone: true })
    await runBatch(id)
    this.say(`${name}: in`)
  }

  /** Some hundreds of people changed role, town or organisation, or left a new address. */
  protected changes(): string[][] {
    const { people, organisations } = this.county
    return people
      .filter((_, i) => i % 23 === 5 && i < 15_000)
      .map((p) => {
        const next = { ...p }
        const turn = this.random.below(10)
        if (turn < 5)
          next.role = this.random.pick([
            'Estates Manager',
            'Facilities Manager',
            'Business Manager',
            'Head of Estates',
            'Receptionist',
            'Deputy Facilities Manager',
          ])
        else if (turn < 7) {
          const org = this.random.pick(organisations)
          Object.assign(next, {
            organisation: org.name,
            industry: org.industry,
            headCount: org.headCount,
            street: org.street,
            town: org.town,
            county: org.county,
            postcode: org.postcode,
          })
        } else if (turn < 8) next.status = 'customer'
        return cells(next)
      })
  }

  /** A version of the register: the first of all numbers left out, or the last ones not yet on it. */
  protected register(without: number, before: number): string {
    const numbers = new Set(this.county.people.filter((p, i) => p.phone && i % 9 === 4).map((p) => p.phone))
    return [
      'Phone,Registered',
      ...[...numbers]
        .slice(without, without === 0 ? 1070 : 1100)
        .map((phone, i) => `${phone},${new Date(this.today - (before + i) * DAY).toISOString().slice(0, 10)}`),
    ].join('\r\n')
  }

  /** Contacts outside rounds. Nobody in Farrowbridge whose id ends in 3 was ever dealt with. */
  protected async contactsOfTheYears(fromDaysAgo: number, toDaysAgo: number, count: number): Promise<void> {
    const people: { id: number; email: boolean; phone: boolean }[] = await db()('person as p')
      .where('p.state', 'live')
      .whereRaw(`not (coalesce(p.town, '') = 'Farrowbridge' and p.id % 10 = 3)`)
      .whereRaw('p.id % 3 <> 1')
      .orderBy('p.id')
      .select('p.id')
      .select(
        db().raw(
          `exists (select 1 from address a where a.person_id = p.id and a.channel = 'email') as email, exists (select 1 from address a where a.person_id = p.id and a.channel = 'phone') as phone`,
        ),
      )
    const entries = Array.from({ length: count }, () => {
      const person = this.random.pick(people)
      const at = new Date(this.today - (toDaysAgo + this.random.next() * (fromDaysAgo - toDaysAgo)) * DAY)
      const channel = this.channelFor(person)
      return {
        person: person.id,
        kind: 'contact' as const,
        at,
        actor: this.random.pick([...this.callers, ...this.callers, this.ines]).id,
        channel,
        result: this.resultOf(channel),
        note: this.random.chance(0.08) ? this.random.pick(NOTES) : null,
      }
    }).sort((a, b) => a.at.getTime() - b.at.getTime())
    await db().transaction((trx) => writeEntries(trx, entries, now()))
  }

  protected channelFor({ email, phone }: { email: boolean; phone: boolean }): Channel {
    const options = [...(phone ? ['phone', 'phone'] : []), ...(email ? ['email', 'email'] : []), 'post'] as Channel[]
    return this.random.pick(options)
  }

  protected resultOf(channel: Channel): string {
    if (channel === 'phone')
      return this.random.weigh([
        ['no answer', 45],
        ['voicemail', 20],
        ['spoke', 24],
        ['meeting set', 3],
        ['not interested', 6],
        ['wrong number', 2],
      ])
    if (channel === 'email')
      return this.random.weigh([
        ['sent', 70],
        ['replied', 8],
        ['opened', 18],
        ['bounced', 3],
        ['soft bounced', 1],
      ])
    return this.random.weigh([
      ['sent', 88],
      ['replied', 6],
      ['returned', 6],
    ])
  }

  protected async optOuts(count: number): Promise<void> {
    const people: { id: number }[] = await db()('person').where({ state: 'live' }).select('id').orderBy('id')
    const emails: { value: string }[] = await db()('address').where({ channel: 'email', usable: true }).select('value').orderBy('id')
    const suppressions = Array.from({ length: count }, (_, i): NewSuppression => {
      const since = new Date(now().getTime() - this.random.below(60) * DAY)
      const common = { since, until: i % 17 === 0 ? new Date(now().getTime() + 200 * DAY) : null, actor: this.random.pick(this.callers).id }
      if (i % 4 === 0)
        return {
          ...common,
          of: { person: this.random.pick(people).id },
          reason: 'opt-out',
          channels: [...CHANNELS],
          word: 'asked on the phone',
        }
      if (i % 11 === 0)
        return {
          ...common,
          of: { person: this.random.pick(people).id },
          reason: 'complaint',
          channels: [...CHANNELS],
          word: 'letter of complaint',
        }
      return {
        ...common,
        of: { email: this.random.pick(emails).value },
        reason: 'opt-out',
        channels: ['email'],
        word: 'unsubscribed by e-mail',
      }
    })
    await db().transaction((trx) => writeSuppressions(trx, suppressions))
  }

  protected async list(name: string, by: Actor, shared: boolean, lines: Line[]): Promise<void> {
    this.lists.set(name, await createList(by, name, shared, [{ id: 'start', verb: 'start', off: false, batch: null }, ...lines]))
  }

  protected async save(name: string, by: Actor, change: (lines: Line[]) => Line[]): Promise<void> {
    const id = this.lists.get(name) as number
    const edition = await latestEdition(id)
    await saveEdition(by, id, edition.number, change(edition.lines))
  }

  /** A round from its start to its close so many days later (0: it is still out), with this share of its contacts made. */
  protected async round(name: string, by: Actor, made: number, days: number): Promise<void> {
    const released = now().getTime()
    const id = await startRound(by, this.lists.get(name) as number)
    await releaseRound(by, id)
    const due: { person_id: number; channel: Channel }[] = await db()('contact_to_come')
      .where({ round_id: id })
      .orderBy('person_id')
      .select('person_id', 'channel')
    const span = days || 10
    const contacts = due
      .filter(() => this.random.chance(made))
      .map((d) => {
        const at = new Date(released + 3_600_000 + this.random.next() * (span - 1) * DAY)
        return {
          person: d.person_id,
          at,
          channel: d.channel,
          result: this.resultOf(d.channel),
          note: null,
          actor: d.channel === 'phone' ? this.random.pick(this.callers).id : by.id,
        }
      })
    pinClock(new Date(released + span * DAY))
    await db().transaction((trx) => recordContacts(trx, contacts))
    if (days > 0) await closeRound(by, id)
  }
}

const NOTES = [
  'asked for a survey in spring',
  'roof was replaced last year',
  'speak to the bursar first',
  'call after four',
  'interested in the green roof at the library',
  'has tanks already',
] as const

let lineNumber = 0
const line =
  (verb: 'keep' | 'drop' | 'add') =>
  (criterion: Criterion): Line => ({ id: `demo-${++lineNumber}`, verb, off: false, unknownAsYes: false, criterion })
export const keep = line('keep')
export const drop = line('drop')
export const add = line('add')
