import { stringify } from 'csv-stringify/sync'
import type { Subject } from '@/core/records/subject'
import type { Criterion } from '@/core/criteria/registry'
import type { Line } from '@/core/lists/line'
import type { BatchOptions } from '@/core/views/intake-views'
import { connect, db, setDb } from '@/db/connection'
import { addMember } from '@/db/team/first-member'
import { writeEntries } from '@/db/ledger'
import { serveEngine } from '@/engine/server'
import { now, pinClock } from '@/runtime/clock'
import { settings } from '@/runtime/settings'
import type { Actor } from '@/usecases/team/actor'
import { recordContacts } from '@/usecases/contact/contact-people'
import { createList } from '@/usecases/lists/create-list'
import { saveEdition } from '@/usecases/lists/save-edition'
import { propose } from '@/usecases/lists/proposals'
import { shareList } from '@/usecases/lists/share-list'
import { batchOf } from '@/usecases/intake/batch-for'
import { receiveFile } from '@/usecases/intake/receive-file'
import { releaseRound } from '@/usecases/rounds/release-round'
import { runBatch } from '@/usecases/intake/run-batch'
import { type NewSuppression, writeSuppressions } from '@/usecases/screening/suppress-people'
import { cells, type County, pellowCounty } from './county'
import { ORGANISATION_HEADER, organisationRows, PEOPLE_HEADER, peopleRows } from './facts'
import { toCsv } from './files'
import { countyMap, PREMISES_HEADER, premisesRows } from './places'
import { DEMO_MEMBERS, DEMO_PASSWORD } from './people'
import { Random } from './random'
import { latestEdition } from '@/db/lists/list-rows'
import { type Channel, CHANNELS } from '@/core/records/channels'
import { startBatch } from '@/usecases/intake/start-batch'
import { keepArea } from '@/usecases/lists/keep-area'
import { commentOn } from '@/usecases/lists/comment-on'
import { keepWording } from '@/usecases/lists/keep-wording'
import { startRound } from '@/usecases/rounds/start-round'
import { closeRound } from '@/usecases/rounds/close-round'

const DAY = 86_400_000

/**
 * Loads the demo county and what happened in it over two years, told in order by the application's own use cases with
 * the clock set back. Dates count from the day of loading.
 */
export async function loadDemo(owner: string, say: (line: string) => void): Promise<void> {
  const ownerDb = connect(owner, 2)
  const ids: string[] = []
  for (const member of DEMO_MEMBERS) ids.push(await addMember(ownerDb, { ...member, password: DEMO_PASSWORD }))
  await ownerDb('setting').insert([
    { name: 'demo-password', value: DEMO_PASSWORD },
    { name: 'map', value: JSON.stringify(countyMap()) },
  ])
  await ownerDb.destroy()
  const actors = DEMO_MEMBERS.map((m, i): Actor => ({ id: ids[i], name: m.name, post: m.post }))
  const { APP_DATABASE_URL, ENGINE_PORT, ARCH_SECRET } = settings()
  const pool = connect(APP_DATABASE_URL, 6)
  setDb(pool)
  const engine = await serveEngine(pool, ENGINE_PORT, ARCH_SECRET)
  try {
    await new Story(pellowCounty(), actors, say).tell()
  } finally {
    pinClock(null)
    await engine.close()
    await pool.destroy()
  }
}

const SCHOOLS = 'Schools and clinics, north Pellow'
const HOUSING = 'Estates leads at housing bodies'
const NURSERIES = 'Plant nurseries, spring mailing'
const BREWERIES = 'Breweries and dairies'
const NEIGHBOURS = 'Neighbours of the Kettlehythe jobs'
const NEVER = 'Owners nobody has called'
const ESTATES = 'Estates leads at the large roofs'

const table = (header: string[], rows: string[][]) => stringify([header, ...rows])

class Story {
  private readonly random = new Random(4711)
  private readonly today = Math.floor(Date.now() / DAY) * DAY + 9 * 3_600_000
  private readonly lists = new Map<string, number>()

  constructor(
    private readonly county: County,
    private readonly actors: Actor[],
    private readonly say: (line: string) => void,
  ) {}

  private get ines() {
    return this.actors[0]
  }
  private get callers() {
    return this.actors.slice(1, 3)
  }
  private get marek() {
    return this.actors[3]
  }

  private goTo(daysAgo: number): void {
    pinClock(new Date(this.today - daysAgo * DAY))
  }

  async tell(): Promise<void> {
    const { people } = this.county
    this.goTo(730)
    await this.bringIn('county-directory.csv', toCsv(people.slice(0, 16_600).map(cells)))
    this.goTo(700)
    await this.bringIn('county-organisations.csv', table(ORGANISATION_HEADER, organisationRows(this.county)))
    await this.bringIn('county-premises.csv', table(PREMISES_HEADER, premisesRows(this.county, this.today)), {}, 'premises')
    this.goTo(420)
    await this.bringIn('autumn-fair-visitors.csv', toCsv(people.slice(16_600, 17_500).map(cells)))
    await this.contactsOfTheYears(729, 400, 9_000)
    await this.optOuts(280)
    await this.list(NURSERIES, this.marek, true, [
      keep({ kind: 'role', any: ['nursery manager', 'head gardener', 'owner'] }),
      keep({ kind: 'reach', channel: 'post' }),
      drop({ kind: 'relation', any: ['customer', 'supplier'] }),
    ])
    await this.round(NURSERIES, this.marek, 0.9, 40)
    this.say('Two years ago to last winter: told')
    this.goTo(300)
    await this.list(SCHOOLS, this.ines, true, [
      keep({ kind: 'role', any: ['facilities', 'estates', 'site manager', 'premises', 'buildings manager'] }),
      keep({ kind: 'place', towns: ['Thornmouth', 'Low Wendle', 'Wendle Cross'], postcodes: [] }),
    ])
    await this.contactsOfTheYears(399, 301, 3_000)
    await this.round(SCHOOLS, this.ines, 0.8, 30)
    this.goTo(210)
    await this.save(SCHOOLS, this.ines, (lines) => [...lines, drop({ kind: 'role', any: ['trainee', 'deputy'] })])
    await this.list(HOUSING, this.marek, true, [
      keep({ kind: 'role', any: ['asset manager', 'housing officer', 'head of estates', 'director of estates'] }),
      drop({ kind: 'contacted', how: 'within', days: 90, by: null }),
    ])
    await this.contactsOfTheYears(260, 150, 5_000)
    await this.round(HOUSING, this.marek, 0.85, 35)
    this.goTo(150)
    await this.bringIn('open-day-visitors.csv', toCsv(people.slice(17_500).map(cells)))
    await this.round(SCHOOLS, this.ines, 0.85, 30)
    this.goTo(120)
    await this.list(NEIGHBOURS, this.callers[1], true, [
      keep({ kind: 'place', towns: ['Kettlehythe'], postcodes: [] }),
      keep({ kind: 'reach', channel: 'post' }),
      drop({ kind: 'relation', any: ['customer'] }),
      drop({ kind: 'list', list: { id: this.lists.get(HOUSING) as number, name: HOUSING }, edition: null }),
    ])
    await this.contactsOfTheYears(149, 61, 3_500)
    await this.round(NEIGHBOURS, this.marek, 0.7, 20)
    this.goTo(60)
    await this.optOuts(130)
    await this.save(SCHOOLS, this.ines, (lines) => [...lines, add({ kind: 'role', any: ['head brewer'] })])
    await this.save(SCHOOLS, this.ines, (lines) => lines.slice(0, -1))
    await this.round(SCHOOLS, this.ines, 0.9, 28)
    this.say('This year: told')
    this.goTo(58)
    await this.bringIn('do-not-call-register-september.csv', this.register(0, 59), {
      register: { name: 'Pellow do-not-call register', version: new Date(this.today - 59 * DAY).toISOString().slice(0, 10) },
    })
    this.goTo(45)
    await this.bringIn('county-directory-changes.csv', toCsv(this.changes()))
    this.goTo(27)
    await this.bringIn('do-not-call-register.csv', this.register(12, 60), {
      register: { name: 'Pellow do-not-call register', version: new Date(this.today - 28 * DAY).toISOString().slice(0, 10) },
    })
    this.goTo(26)
    await this.list(BREWERIES, this.ines, true, [
      keep({ kind: 'role', any: ['head brewer', 'dairy manager', 'operations director', 'site manager'] }),
      drop({ kind: 'contacted', how: 'within', days: 60, by: null }),
      { id: 'demo-limit', verb: 'limit', off: false, most: 3, per: 'organisation', rank: 'easiest to reach' },
    ])
    await this.contactsOfTheYears(44, 13, 900)
    this.goTo(12)
    await this.round(BREWERIES, this.ines, 0.35, 0)
    this.goTo(5)
    await this.bringIn(
      'who-is-who.csv',
      table(
        PEOPLE_HEADER,
        peopleRows(
          this.county,
          this.today,
          this.actors.map((a) => a.name),
        ),
      ),
    )
    this.goTo(3)
    await this.list(NEVER, this.callers[0], false, [
      keep({ kind: 'role', any: ['owner', 'operations director'] }),
      keep({ kind: 'contacted', how: 'never', by: null }),
      keep({ kind: 'reach', channel: 'phone' }),
    ])
    await this.places()
    await this.talk()
    await this.contactsOfTheYears(11, 1, 260)
    this.goTo(1)
    await this.bringIn('autumn-fair-cards.csv', this.cards())
  }

  /** Lists of premises and organisations, an area, a wording of a role, and people by what they stand to. */
  private async places(): Promise<void> {
    await keepWording(this.ines, {
      name: 'Estates lead',
      says: [
        'head of estates',
        'director of estates',
        'estates manager',
        'head of facilities',
        'facilities manager',
        'estates lead',
        'facilities lead',
      ],
      butNot: ['trainee', 'deputy', 'secretary'],
    })
    const mere = await keepArea(this.ines, {
      name: 'Round Saltrey Mere',
      shape: {
        polygons: [
          [
            [
              [1.19, 55.3],
              [1.47, 55.3],
              [1.5, 55.38],
              [1.45, 55.47],
              [1.25, 55.46],
              [1.17, 55.4],
            ],
          ],
        ],
        circles: [],
        streets: [],
      },
      shared: true,
      named: true,
    })
    const of = (subject: Subject): Line => ({ id: 'start', verb: 'start', off: false, batch: null, subject })
    const roofs = await createList(this.ines, 'Large roofs round Saltrey Mere', true, [
      of('premises'),
      keep({ kind: 'roof-area', least: 800, most: null }),
      keep({ kind: 'area', areas: [mere] }),
      drop({ kind: 'likely', any: ['likely'] }),
    ])
    await createList(this.marek, 'Public bodies older than their pipes', true, [
      of('organisation'),
      keep({ kind: 'legal-kind', any: ['public body'] }),
      keep({ kind: 'founded', least: null, most: 1945 }),
    ])
    await this.list(ESTATES, this.ines, true, [
      keep({ kind: 'related', how: 'occupies', list: { id: roofs, name: 'Large roofs round Saltrey Mere' }, role: [], metres: null }),
      keep({
        kind: 'role',
        any: [
          'head of estates',
          'director of estates',
          'estates manager',
          'head of facilities',
          'facilities manager',
          'estates lead',
          'facilities lead',
        ],
        not: ['trainee', 'deputy', 'secretary'],
        named: { id: 1, name: 'Estates lead' },
      }),
    ])
  }

  /** One list the team may use and not edit, what callers say of its lines, and a line one of them proposes. */
  private async talk(): Promise<void> {
    const id = this.lists.get(ESTATES) as number
    await shareList(this.ines, id, { team: 'use', members: [{ id: this.marek.id, role: 'edit' }] })
    const { lines, number } = await latestEdition(id)
    await commentOn(this.callers[0], id, lines[2].id, 'At the housing bodies they call it “head of assets”. I found four that way.')
    await commentOn(this.ines, id, lines[2].id, 'Good. I will look whether the wording should have it for everybody.')
    await propose(
      this.callers[1],
      id,
      number,
      [...lines, keep({ kind: 'reach', channel: 'phone' })],
      'we ring these, and some have no number',
    )
  }

  /** Cards of some who stand in the directory already, typed in by somebody in a hurry. */
  private cards(): string {
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

  private async bringIn(name: string, csv: string, options: BatchOptions = {}, of: 'people' | 'premises' = 'people'): Promise<void> {
    const id = await receiveFile(this.ines, { name, bytes: Buffer.from(csv, 'utf8'), kind: options.register ? 'suppressions' : of })
    const { kind, mapping } = await batchOf(id)
    // Brought in as teams did before likeness was asked about, so that there are doubles to be found.
    await startBatch(this.ines, id, { kind, mapping }, { ...options, byKeysAlone: true })
    await runBatch(id)
    this.say(`${name}: in`)
  }

  /** Some hundreds of people changed role, town or organisation, or left a new address. */
  private changes(): string[][] {
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
  private register(without: number, before: number): string {
    const numbers = new Set(this.county.people.filter((p, i) => p.phone && i % 9 === 4).map((p) => p.phone))
    return [
      'Phone,Registered',
      ...[...numbers]
        .slice(without, without === 0 ? 1070 : 1100)
        .map((phone, i) => `${phone},${new Date(this.today - (before + i) * DAY).toISOString().slice(0, 10)}`),
    ].join('\r\n')
  }

  /** Contacts outside rounds. Nobody in Farrowbridge whose id ends in 3 was ever dealt with. */
  private async contactsOfTheYears(fromDaysAgo: number, toDaysAgo: number, count: number): Promise<void> {
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

  private channelFor({ email, phone }: { email: boolean; phone: boolean }): Channel {
    const options = [...(phone ? ['phone', 'phone'] : []), ...(email ? ['email', 'email'] : []), 'post'] as Channel[]
    return this.random.pick(options)
  }

  private resultOf(channel: Channel): string {
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
        ['bounced', 4],
      ])
    return this.random.weigh([
      ['sent', 88],
      ['replied', 6],
      ['returned', 6],
    ])
  }

  private async optOuts(count: number): Promise<void> {
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

  private async list(name: string, by: Actor, shared: boolean, lines: Line[]): Promise<void> {
    this.lists.set(name, await createList(by, name, shared, [{ id: 'start', verb: 'start', off: false, batch: null }, ...lines]))
  }

  private async save(name: string, by: Actor, change: (lines: Line[]) => Line[]): Promise<void> {
    const id = this.lists.get(name) as number
    const edition = await latestEdition(id)
    await saveEdition(by, id, edition.number, change(edition.lines))
  }

  /** A round from its start to its close so many days later (0: it is still out), with this share of its contacts made. */
  private async round(name: string, by: Actor, made: number, days: number): Promise<void> {
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
const keep = line('keep')
const drop = line('drop')
const add = line('add')
