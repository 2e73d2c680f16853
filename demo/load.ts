import { stringify } from 'csv-stringify/sync'
import type { Subject } from '@/core/records/subject'
import type { Line } from '@/core/lists/line'
import { connect, setDb } from '@/db/connection'
import { addMember } from '@/db/team/first-member'
import { serveEngine } from '@/engine/server'
import { pinClock } from '@/runtime/clock'
import { settings } from '@/runtime/settings'
import type { Actor } from '@/usecases/team/actor'
import { createList } from '@/usecases/lists/create-list'
import { propose } from '@/usecases/lists/proposals'
import { shareList } from '@/usecases/lists/share-list'
import { cells, pellowCounty } from './county'
import { ORGANISATION_HEADER, organisationRows, PEOPLE_HEADER, peopleRows } from './facts'
import { toCsv } from './files'
import { countyMap, PREMISES_HEADER, premisesRows } from './places'
import { DEMO_MEMBERS, DEMO_PASSWORD } from './people'
import { add, drop, keep, Telling } from './telling'
import type { FeedPage } from '@/core/changes/feed'
import { countyFeed } from '@/standins/feed'
import { readFeed } from '@/usecases/changes/run-feed'
import { lastRounds } from '@/db/rounds/round-rows'
import { setRhythm } from '@/usecases/lists/set-rhythm'
import { writeLetter } from '@/usecases/rounds/write-letter'
import { makeTask } from '@/usecases/team/tasks'
import { latestEdition } from '@/db/lists/list-rows'
import { keepArea } from '@/usecases/lists/keep-area'
import { commentOn } from '@/usecases/lists/comment-on'
import { keepWording } from '@/usecases/lists/keep-wording'

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

class Story extends Telling {
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
    this.goTo(46)
    await this.look()
    this.goTo(45)
    await this.bringIn('county-directory-changes.csv', toCsv(this.changes()))
    await this.settleChanges(44, 14)
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
    this.goTo(6)
    await this.look()
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
    await this.letter()
    await this.tasks()
    this.goTo(0)
    await readFeed({ name: 'County wire', read: async (cursor) => countyFeed().read({ cursor } as never) as FeedPage })
    await this.settleChanges(0, 0, 0.04)
  }

  /** The email of a list’s open round, as it is written for now. */
  private async letter(): Promise<void> {
    const { newest } = await lastRounds(this.lists.get(BREWERIES) as number)
    await writeLetter(
      this.ines,
      newest?.id as number,
      {
        subject: 'Rain from the roof of {organisation|your cold store}',
        body: `Dear {given name|neighbour},

{opener|}

As {role|somebody who looks after a cold store} you know what water costs in August. At a dairy near Thornmouth the yard is now washed with what falls on its roof: a tank, a pump, two days of work and nothing dug up.

May I show you **what it saves**? A quarter of an hour is enough.

Kind regards,
Ines Okafor`,
        senderName: 'Brackenfold Rainworks',
        senderEmail: 'ines.okafor@brackenfold.example',
        address: '3 Wharf Lane, Thornmouth',
      },
      '',
    )
  }

  /** What somebody is to do, and when lists are due again. */
  private async tasks(): Promise<void> {
    const [first, second] = this.callers
    const day = (from: number) => new Date(this.today + from * DAY).toISOString().slice(0, 10)
    await setRhythm(this.ines, this.lists.get(SCHOOLS) as number, { every: 'days', days: 45 })
    await setRhythm(this.ines, this.lists.get(BREWERIES) as number, { every: 'week', on: ['MO'], weeks: 2 })
    await setRhythm(this.marek, this.lists.get(HOUSING) as number, { every: 'month', day: 1 })
    const given: [what: string, who: Actor, due: string | null][] = [
      ['Ask the county office for the list of new head teachers', this.ines, day(-2)],
      ['Send Beth the wording for the spring letter', this.ines, day(0)],
      ['Find out who looks after the roofs of the leisure centres', this.ines, null],
    ]
    for (const [what, who, due] of given) await makeTask(who, { what, forId: who.id, due })
    await makeTask(this.marek, { what: 'Check the figures for the members’ meeting', forId: this.ines.id, due: day(3) })
    await makeTask(this.ines, {
      what: 'Call the breweries that asked for a visit',
      forId: first.id,
      due: day(1),
      of: 'list',
      id: String(this.lists.get(BREWERIES)),
    })
    await makeTask(second, { what: 'Order more cards', forId: second.id, due: day(-1) })
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
}
