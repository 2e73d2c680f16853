import type { Knex } from 'knex'
import { CHANNELS, type ContactToCome, type Reason, type ScreenedChannel, SCREENED, type Suppression } from '@/core/columns/person-record'
import { NEVER, PeopleColumns } from '@/core/columns/people-columns'
import { type CopiedRow, copyRows } from './copy-rows'
import { channelsOfBits, PARTS, type PartName } from './person-parts'

type Read = (name: PartName, visit: (row: CopiedRow) => void, order?: string) => Promise<void>

/** Reads the rows of a part, those of everybody or of the people whose ids the query `who` gives. */
function reader(trx: Knex, who: string | null): Read {
  return (name, visit, order = '') => copyRows(trx, PARTS[name].sql.replaceAll('{where}', who ? `${PARTS[name].own} in (${who})` : 'true') + order, visit)
}

/**
 * Reads everybody who is live straight into fresh columns, a kind of row after the other, and gives the ids of those that
 * others were merged into: what was known of these is still to be read. Must run in one REPEATABLE READ transaction.
 */
export async function readEverybody(trx: Knex): Promise<{ columns: PeopleColumns; mergedInto: Set<number> }> {
  const columns = new PeopleColumns()
  const mergedInto = new Set<number>()
  const read = reader(trx, null)
  await read('people', (row) => {
    const id = row.int8()
    row.span()
    const live = row.length === 4 && row.bytes[row.from] === 0x6c
    const into = row.int8()
    if (into >= 0) {
      columns.mergedInto.set(id, into)
      mergedInto.add(into)
    }
    if (!live) return
    const n = columns.give(id)
    word(columns.given, n, row)
    word(columns.family, n, row)
    word(columns.organisationName, n, row)
    word(columns.role, n, row)
    columns.organisation.set(n, orNull(row.int8()))
    word(columns.industry, n, row)
    columns.headCount.set(n, orNull(row.int4()))
    word(columns.county, n, row)
    word(columns.town, n, row)
    word(columns.postcode, n, row)
    word(columns.relation, n, row)
    for (const tag of row.texts()) columns.memberOf(columns.tags, tag, n)
    columns.order.set(n, row.text() as string)
  }, ' order by p.id')

  await readReach(read, columns)
  await read('batches', (row) => {
    const n = columns.numberFor(row.int8())
    const batch = row.int8()
    if (n !== undefined) columns.memberOf(columns.batches, batch, n)
  })
  columns.version++
  return { columns, mergedInto }
}

/**
 * Reads what rules ask about the live among those whose ids the query `who` gives, and nothing else. What is known of
 * records that were merged into one of them is not among it.
 */
export async function readForRules(trx: Knex, who: string): Promise<PeopleColumns> {
  const columns = new PeopleColumns()
  await copyRows(trx, `select id, relation from person where state = 'live' and id in (${who}) order by id`, (row) => {
    word(columns.relation, columns.give(row.int8()), row)
  })
  await readReach(reader(trx, who), columns)
  return columns
}

/** Addresses, what is suppressed, contacts made and to come, of those who have a number in the columns. */
async function readReach(read: Read, columns: PeopleColumns): Promise<void> {
  const addresses = columns.addresses.loader()
  await read('addresses', (row) => {
    const n = columns.numberFor(row.int8())
    if (n === undefined) return
    const id = row.int8()
    const channel = row.int4()
    const usable = row.bool()
    const failed = row.float8() ?? NEVER
    addresses.add(n, row.int4(), [id, channel, usable ? 1 : 0, failed])
    if (usable) columns.usable[SCREENED[channel] as ScreenedChannel].add(n)
  }, ' order by id')
  addresses.done()

  await read('onAddress', (row) => {
    const n = columns.numberFor(row.int8())
    if (n === undefined) return
    const address = row.int8()
    const suppression = suppressionOf(row)
    const first = columns.addresses.first(n)
    const count = columns.addresses.count(n)
    for (let i = 0; i < count; i++) {
      if (columns.addresses.fields.id[first + i] !== address) continue
      let byAddress = columns.addressSuppressed.get(n)
      if (!byAddress) columns.addressSuppressed.set(n, (byAddress = Array.from({ length: count }, () => [])))
      byAddress[i].push(suppression)
    }
  }, ' order by person_id, id')

  for (const part of ['onPerson', 'onOrganisation'] as const) {
    await read(part, (row) => {
      const n = columns.numberFor(row.int8())
      if (n === undefined) return
      const known = columns.suppressed.get(n)
      const suppression = suppressionOf(row)
      if (known) known.push(suppression)
      else columns.suppressed.set(n, [suppression])
    }, ' order by person_id, id')
  }

  const contacts = columns.contacts.loader()
  const actors = new Map<string, number>()
  let lastActor = ''
  let lastCode = -1
  await read('contacts', (row) => {
    const n = columns.numberFor(row.int8())
    const at = row.float8() as number
    const way = row.int4()
    row.span()
    // Actors are few: their ids, which are plain letters, are told apart without making a string of the same one again.
    if (!sameLatin(lastActor, row)) {
      lastActor = row.bytes.toString('latin1', row.from, row.from + row.length)
      lastCode = actors.get(lastActor) ?? columns.actorCode(lastActor)
      actors.set(lastActor, lastCode)
    }
    if (n !== undefined) contacts.add(n, 0, [at, way, lastCode])
  })
  contacts.done()

  await read('toCome', (row) => {
    const n = columns.numberFor(row.int8())
    const round = row.int8()
    const channel = CHANNELS[row.int4()] as ScreenedChannel
    const since = row.float8() as number
    if (n === undefined) return
    const known = columns.toCome.get(n)
    if (known) known.push({ round, channel, since })
    else columns.toCome.set(n, [{ round, channel, since }])
  }, ' order by person_id, round_id, channel')
}

const orNull = (value: number): number | null => (value < 0 ? null : value)

function word(column: PeopleColumns['role'], n: number, row: CopiedRow): void {
  row.span()
  if (row.length < 0) column.set(n, null)
  else column.setBytes(n, row.bytes, row.from, row.length)
}

function suppressionOf(row: CopiedRow): Suppression {
  return { id: row.int8(), reason: row.text() as Reason, channels: channelsOfBits(row.int4()), since: row.float8() as number, until: row.float8() }
}

function sameLatin(text: string, { bytes, from, length }: CopiedRow): boolean {
  if (text.length !== length) return false
  for (let i = 0; i < length; i++) if (text.charCodeAt(i) !== bytes[from + i]) return false
  return true
}

/** Contacts still to come of some rounds; those of merged records belong to the one that stays. */
export async function roundsToCome(trx: Knex, rounds: number[], visit: (person: number, toCome: ContactToCome) => void): Promise<void> {
  const sql = PARTS.toCome.sql.replaceAll('{where}', `round_id in (${rounds.map(Number).join(',')})`)
  await copyRows(trx, `select coalesce(p.merged_into, p.id), t.round_id, t.channel, t.since from (${sql}) t join person p on p.id = t.person_id`, (row) => {
    visit(row.int8(), { round: row.int8(), channel: CHANNELS[row.int4()] as ScreenedChannel, since: row.float8() as number })
  })
}

/** Who was on a released round and who of them was clear; seats of merged records belong to the one that stays. */
export async function roundMembers(trx: Knex, rounds: number[] | 'all', visit: (list: number, number: number, people: number[], clear: number[]) => void): Promise<void> {
  const found = await trx('round').whereNotNull('released_at').modify((q) => rounds !== 'all' && q.whereIn('id', rounds)).orderBy('id').select('id', 'list_id', 'number')
  for (const { id, list_id, number } of found) {
    const people: number[] = []
    const clear: number[] = []
    await copyRows(trx, `select coalesce(p.merged_into, p.id), m.held_by is null from round_member m join person p on p.id = m.person_id where m.round_id = ${Number(id)}`, (row) => {
      const person = row.int8()
      people.push(person)
      if (row.bool()) clear.push(person)
    })
    visit(list_id, number, people, clear)
  }
}
