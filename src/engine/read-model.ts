import type { Knex } from 'knex'
import { Directory } from '@/core/columns/directory'
import type { PeopleColumns } from '@/core/columns/people-columns'
import type { ContactToCome } from '@/core/records/person-record'
import { pointing } from '@/core/columns/pointing'
import { Answers } from '@/core/criteria/registry'
import { changesSince, currentPosition } from '@/db/change-log'
import { readEverybody, roundsToCome } from '@/db/directory/read-people'
import { roundMembers } from '@/db/rounds/round-members'
import { organisationRecords, premisesRecords } from '@/db/directory/organisation-and-premises-rows'
import { PACKING } from '@/db/directory/person-parts'
import { changesOfRecords } from '@/db/changes/read-change-rows'
import type { Subject } from '@/core/records/subject'
import type { SubjectRecord } from '@/core/records/subject-record'
import { personRecords, type StandingRecord } from '@/db/directory/person-records'

const CHUNK = 20_000
/** Some people's parts are read sooner by one process than it takes to call others. */
const READING = 'set local max_parallel_workers_per_gather = 0'
/** Marks older than a day are taken out of the log; whoever was away for longer than this reads everything anew. */
const LONGEST_SILENCE = 12 * 3_600_000

/**
 * The directory as columns, read from the database in one snapshot and kept up by its change log. It holds nothing of
 * its own: it can be thrown away and read again at any time.
 */
export class ReadModel {
  directory = new Directory()
  answers = new Answers(this.directory)
  /** When the database was last heard, in UTC milliseconds; null until everything has been read once. */
  heardAt: number | null = null
  private position: string | null = null
  private running: Promise<void> | null = null
  private waiting: Promise<void> | null = null

  constructor(private readonly db: Knex) {}

  /** The people of the directory. */
  get columns(): PeopleColumns {
    return this.directory.people
  }

  get ready(): boolean {
    return this.position !== null
  }

  /**
   * Brings the columns up to everything committed before this call. Calls that come while one is under way share the
   * next one, which begins after them.
   */
  catchUp(): Promise<void> {
    if (!this.running) {
      this.running = this.step().finally(() => (this.running = null))
      return this.running
    }
    this.waiting ??= this.running
      .catch(() => {})
      .then(() => {
        this.waiting = null
        return this.catchUp()
      })
    return this.waiting
  }

  private async step(): Promise<void> {
    // One question tells that nothing was committed since, which is so most of the time.
    if (this.position !== null && !this.silentTooLong && (await currentPosition(this.db)) === this.position) {
      this.heardAt = Date.now()
      return
    }
    await this.db.transaction(
      async (trx) => {
        if (this.position === null || this.silentTooLong) return this.readAll(trx)
        const { people: marked, contacts, rounds, toCome, position, ...others } = await changesSince(trx, this.position)
        if (marked === 'all') return this.readAll(trx)
        const [people, organisations, premises] = this.withPointing(marked, others.organisations, others.premises)
        // All of it is read first and put in place in one go: an answer never finds a part of it, even where the rest cannot be read.
        const put = await this.readChanged(trx, { people, contacts, organisations, premises, toCome, rounds })
        put()
        this.position = position
        this.heardAt = Date.now()
      },
      { isolationLevel: 'repeatable read', readOnly: true },
    )
  }

  /** Reads what changed, and gives what puts it in place. */
  private async readChanged(
    trx: Knex,
    of: { people: number[]; contacts: number[]; organisations: number[]; premises: number[]; toCome: number[]; rounds: number[] },
  ): Promise<() => void> {
    const organisations = await organisationRecords(trx, of.organisations)
    if (of.people.length > 0) await trx.raw(READING)
    const kept = this.contactsKept(of.people, of.contacts)
    const people: StandingRecord[] = []
    for (let i = 0; i < of.people.length; i += CHUNK) people.push(...(await personRecords(trx, of.people.slice(i, i + CHUNK), kept)))
    const premises = await premisesRecords(trx, of.premises)
    await withChanges(trx, 'person', people)
    await withChanges(trx, 'organisation', organisations)
    await withChanges(trx, 'premises', premises)
    const toCome = of.toCome.length > 0 ? await toComeOf(trx, of.toCome) : null
    const rounds: (() => void)[] = []
    if (of.rounds.length > 0)
      await roundMembers(trx, of.rounds, (list, number, on, clear) =>
        rounds.push(() => this.columns.putRound(list, number, { listed: this.columns.numbers(on), clear: this.columns.numbers(clear) })),
      )
    return () => {
      for (const { live, record } of organisations) {
        if (live) this.directory.organisations.put(record)
        else this.directory.organisations.remove(record.id)
      }
      put(this.columns, people)
      for (const { live, record } of premises) {
        if (live) this.directory.premises.put(record)
        else this.directory.premises.remove(record.id)
      }
      if (toCome) this.columns.putToCome(of.toCome, toCome)
      for (const putRound of rounds) putRound()
    }
  }

  private get silentTooLong(): boolean {
    return Date.now() - (this.heardAt ?? 0) > LONGEST_SILENCE
  }

  /** Whose contacts are in the columns as they stand: those that were live before and whose contacts nobody changed. */
  private contactsKept(people: number[], changed: number[]): Set<number> {
    const kept = new Set(people)
    for (const id of changed) kept.delete(id)
    for (const id of kept) {
      const n = this.columns.numberFor(id)
      if (n === undefined || !this.columns.live.has(n)) kept.delete(id)
    }
    return kept
  }

  /** What is marked, and what pointed at it until now: it may point elsewhere from here on. */
  private withPointing(
    people: number[],
    organisations: number[],
    premises: number[],
  ): [people: number[], organisations: number[], premises: number[]] {
    const also = pointing(this.directory, { people, organisations, premises })
    // Who was at premises that changed may have owned others, as who was at theirs.
    const owned = pointing(this.directory, { ...also, premises: [] })
    return [
      [...new Set([...people, ...also.people])],
      [...new Set([...organisations, ...also.organisations])],
      [...new Set([...premises, ...also.premises, ...owned.premises])],
    ]
  }

  /** Reads everybody into fresh columns and swaps them in whole, so that nobody is ever answered from half of them. */
  private async readAll(trx: Knex): Promise<void> {
    const position = await currentPosition(trx)
    await trx.raw(`set local work_mem = '128MB'`)
    const {
      rows: [{ snapshot }],
    } = await trx.raw<{ rows: { snapshot: string }[] }>('select pg_export_snapshot() as snapshot')
    const beside = <T>(work: (other: Knex) => Promise<T>): Promise<T> =>
      this.db.transaction(
        async (other) => {
          await other.raw(`set transaction snapshot '${snapshot}'; set local work_mem = '256MB'; ${PACKING}`)
          return work(other)
        },
        { isolationLevel: 'repeatable read', readOnly: true },
      )
    const { directory, mergedInto } = await beside((addresses) => beside((contacts) => readEverybody(trx, { addresses, contacts })))
    const columns = directory.people
    // What was known of merged records belongs to those that stayed, wherever in the order of ids they stand.
    const stayed = await personRecords(trx, [...mergedInto])
    await withChanges(trx, 'person', stayed)
    put(columns, stayed)
    await this.readRounds(trx, columns, 'all')
    columns.inOrder()
    this.directory = directory
    this.answers = new Answers(directory)
    this.position = position
    this.heardAt = Date.now()
  }

  private async readRounds(trx: Knex, columns: PeopleColumns, which: number[] | 'all'): Promise<void> {
    await roundMembers(trx, which, (list, number, people, clear) =>
      columns.putRound(list, number, { listed: columns.numbers(people), clear: columns.numbers(clear) }),
    )
  }
}

/** Puts into records the changes of theirs that count. */
async function withChanges(trx: Knex, of: Subject, records: readonly { record: SubjectRecord }[]): Promise<void> {
  const changes = await changesOfRecords(
    trx,
    of,
    records.map(({ record }) => record.id),
  )
  for (const { record } of records) record.changes = changes.get(record.id) ?? []
}

async function toComeOf(trx: Knex, rounds: number[]): Promise<Map<number, ContactToCome[]>> {
  const fresh = new Map<number, ContactToCome[]>()
  await roundsToCome(trx, rounds, (person, toCome) => {
    const known = fresh.get(person)
    if (known) known.push(toCome)
    else fresh.set(person, [toCome])
  })
  return fresh
}

function put(columns: PeopleColumns, records: StandingRecord[]): void {
  for (const { live, mergedInto, record, withoutContacts } of records) {
    if (mergedInto !== null) columns.mergedInto.set(record.id, mergedInto)
    else columns.mergedInto.delete(record.id)
    if (live) columns.put(record, withoutContacts)
    else columns.remove(record.id)
  }
}
