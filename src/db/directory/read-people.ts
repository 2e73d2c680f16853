import type { Knex } from 'knex'
import type { ContactToCome } from '@/core/records/person-record'
import { houseAndStreet } from '@/core/clean/street'
import { Directory } from '@/core/columns/directory'
import { countryPlace } from '@/core/columns/country-places'
import { FIELD } from '@/core/clean/standard-fields'
import { SCREENED_FIELDS } from '@/core/screening/screen-record'
import { NEVER, type PeopleColumns } from '@/core/columns/people-columns'
import { SUBJECTS } from '@/core/records/subject'
import type { SubjectColumns } from '@/core/columns/subject-columns'
import type { WordColumn } from '@/core/columns/words'
import { type CopiedRow, copyRows, instantAt, int8At, startCopy } from '@/db/copy-rows'
import { readChangeColumns } from '@/db/changes/read-change-rows'
import { everyOrganisation, everyPremises, premisesBatches } from './organisation-and-premises-rows'
import { channelsOfBits, CONTACT_ACTORS, COUNTRY, PACKED, type PartName, PARTS } from './person-parts'
import { CHANNELS, type Channel } from '@/core/records/channels'
import type { Reason, Suppression } from '@/core/records/suppression'

type Read = (sql: string, own: string, visit: (row: CopiedRow) => void) => Promise<void>

/** Reads the rows of a part, those of everybody or of the people whose ids the query `who` gives. */
function reader(trx: Knex, who: string | null): Read {
  return (sql, own, visit) => copyRows(trx, sql.replaceAll('{where}', who ? `${own} in (${who})` : 'true'), visit)
}

/**
 * Reads everybody who is live straight into fresh columns, a kind of row after the other, and gives the ids of those that
 * others were merged into: what was known of these is still to be read. Must run in a REPEATABLE READ transaction; the
 * two beside it see the same snapshot, and in them the database gathers addresses and contacts while the rest is read.
 */
export async function readEverybody(
  trx: Knex,
  beside: { addresses: Knex; contacts: Knex },
): Promise<{ directory: Directory; mergedInto: Set<number> }> {
  const addresses = startAddresses(beside.addresses, null)
  const contacts = startContacts(beside.contacts, null)
  // One that cannot be begun is heard of when it is fetched, and not before anybody asks.
  for (const begun of [addresses, contacts]) begun.catch(() => {})
  try {
    return await readAllBut(
      trx,
      async (columns) => (await addresses)(columns),
      async (columns) => (await contacts)(columns),
    )
  } catch (error) {
    // Fetched or not, they must be out of the way before the other transactions can end.
    for (const begun of [addresses, contacts]) await begun.then((fetch) => fetch(new Directory().people)).catch(() => {})
    throw error
  }
}

async function readAllBut(trx: Knex, addresses: Fetch, contacts: Fetch): Promise<{ directory: Directory; mergedInto: Set<number> }> {
  const directory = new Directory()
  const columns = directory.people
  const mergedInto = new Set<number>()
  const read = reader(trx, null)
  await read(`${PARTS.people.sql} order by p.id`, PARTS.people.own, (row) => {
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
    word(columns.role, n, row)
    columns.employer.set(n, directory.organisations.numberOrNone(row.int8()))
    columns.at.set(n, directory.premises.numberOrNone(row.int8()))
    word(columns.county, n, row)
    word(columns.town, n, row)
    word(columns.postcode, n, row)
    readStreet(columns, n, row)
    word(columns.relation, n, row)
    for (const tag of row.texts()) columns.memberOf(columns.tags, tag, n)
    columns.order.set(n, row.text() as string)
    const custom = row.text()
    if (custom !== null) columns.putCustom(n, JSON.parse(custom))
    const changed = row.float8()
    columns.changed.set(n, changed === null ? null : Math.floor(changed / 60_000))
    word(columns.country, n, row)
    word(columns.offLimits, n, row)
  })
  await everyOrganisation(trx, (record) => directory.organisations.put(record))
  await everyPremises(trx, (record) => directory.premises.put(record))
  // While the database is still gathering the rest.
  for (const subject of SUBJECTS) directory.of(subject).inOrder()

  await readReach(trx, null, columns, addresses, contacts)
  await read(PARTS.batches.sql, PARTS.batches.own, (row) => {
    const n = columns.numberFor(row.int8())
    const batch = row.int8()
    if (n !== undefined) columns.memberOf(columns.batches, batch, n)
  })
  for (const batch of await premisesBatches(trx, 'all')) {
    const n = directory.premises.numberFor(batch.premises)
    if (n !== undefined) directory.premises.memberOf(directory.premises.batches, batch.batch, n)
  }
  await readChangeColumns(trx, directory)
  columns.version++
  return { directory, mergedInto }
}

/**
 * Reads what rules ask about the live among those whose ids the query `who` gives, and nothing else. What is known of
 * records that were merged into one of them is not among it.
 */
export async function readForRules(trx: Knex, who: string): Promise<PeopleColumns> {
  const columns = new Directory().people
  await copyRows(
    trx,
    `select p.id, p.relation, coalesce(p.organisation_id, -1), ${COUNTRY}, o.details ->> '${FIELD.offLimits}', nullif(jsonb_strip_nulls(jsonb_build_object(${SCREENED_FIELDS.map((field) => `'${field}', p.custom -> '${field}'`).join(', ')})), '{}')::text
     from person p left join organisation o on o.id = p.organisation_id where p.state = 'live' and p.id in (${who}) order by p.id`,
    (row) => {
      const n = columns.give(row.int8())
      word(columns.relation, n, row)
      columns.employer.set(n, columns.directory.organisations.numberOrNone(row.int8()))
      word(columns.country, n, row)
      word(columns.offLimits, n, row)
      const fields = row.text()
      if (fields !== null) columns.putCustom(n, JSON.parse(fields))
    },
  )
  await readReach(
    trx,
    who,
    columns,
    async (into) => (await startAddresses(trx, who))(into),
    async (into) => (await startContacts(trx, who))(into),
  )
  return columns
}

/** Fetches into columns what the database has begun with. */
type Fetch = (columns: PeopleColumns) => Promise<void>

/** Has the database begin with the addresses; they are fetched into columns by what is given back, which must be called. */
async function startAddresses(trx: Knex, who: string | null): Promise<Fetch> {
  const fetch = await startCopy(trx, PACKED.addresses.replaceAll('{where}', who ? `a.person_id in (${who})` : 'true'))
  return async (columns) => {
    const addresses = columns.addresses.loader()
    await fetch((row) => {
      row.span()
      const { bytes, from, length } = row
      for (let at = from; at < from + length; at += 50) {
        const n = columns.numberFor(int8At(bytes, at))
        if (n === undefined) continue
        const packed = bytes.readInt32BE(at + 16)
        const channel = packed & 255
        const usable = (packed >> 8) & 255
        const failed = instantAt(bytes, at + 24)
        const checked = instantAt(bytes, at + 32)
        addresses.add(
          n,
          bytes.readInt32BE(at + 20),
          int8At(bytes, at + 8),
          channel,
          usable,
          failed < EARLIEST ? NEVER : failed,
          packed >> 16,
          checked < EARLIEST ? NEVER : checked,
          bytes.readUIntBE(at + 40, 6) * 16 + (bytes[at + 46] >> 4),
          countryPlace(bytes.toString('latin1', at + 48, at + 50)),
        )
        if (usable) columns.usable[CHANNELS[channel] as Channel].add(n)
      }
    })
    addresses.done()
  }
}

/** Has the database begin with the contacts; they are fetched into columns by what is given back, which must be called. */
async function startContacts(trx: Knex, who: string | null): Promise<Fetch> {
  const { rows: actors } = await trx.raw<{ rows: { actor_id: string }[] }>(CONTACT_ACTORS)
  const array = `array[${actors.map(({ actor_id }) => `'${actor_id.replaceAll("'", "''")}'`).join(',')}]::text[]`
  const fetch = await startCopy(
    trx,
    PACKED.contacts.replace('{actors}', () => array).replace('{where}', who ? `e.person_id in (${who})` : 'true'),
  )
  return async (columns) => {
    const codes = actors.map(({ actor_id }) => columns.actorCode(actor_id))
    const contacts = columns.contacts.loader()
    await fetch((row) => {
      row.span()
      const { bytes, from, length } = row
      for (let at = from; at < from + length; at += 24) {
        const n = columns.numberFor(int8At(bytes, at))
        const way = bytes.readInt32BE(at + 16)
        if (n !== undefined) contacts.add(n, 0, instantAt(bytes, at + 8), way & 255, codes[bytes.readInt32BE(at + 20) - 1], way >> 8)
      }
    })
    contacts.done()
  }
}

/** Addresses, what is suppressed, contacts made and to come, of those who have a number in the columns. */
async function readReach(trx: Knex, who: string | null, columns: PeopleColumns, addresses: Fetch, contacts: Fetch): Promise<void> {
  const read = reader(trx, who)
  const readPart = ({ sql, own }: (typeof PARTS)[PartName], visit: (row: CopiedRow) => void, order: string) => read(sql + order, own, visit)
  await addresses(columns)
  await readPart(PARTS.onAddress, ofAddress(columns, columns.addressSuppressed, suppressionOf), ' order by person_id, id')
  await readPart(
    PARTS.softBounces,
    ofAddress(columns, columns.softBounced as Map<number, number[][]>, (row) => row.float8() as number),
    ' order by person_id, address, at',
  )

  await readPart(
    PARTS.onPerson,
    (row) => {
      const n = columns.numberFor(row.int8())
      if (n === undefined) return
      const known = columns.suppressed.get(n)
      const suppression = suppressionOf(row)
      if (known) known.push(suppression)
      else columns.suppressed.set(n, [suppression])
    },
    ' order by person_id, id',
  )

  await contacts(columns)

  await readPart(
    PARTS.toCome,
    (row) => {
      const n = columns.numberFor(row.int8())
      const round = row.int8()
      const channel = CHANNELS[row.int4()] as Channel
      const since = row.float8() as number
      if (n === undefined) return
      const known = columns.toCome.get(n)
      if (known) known.push({ round, channel, since })
      else columns.toCome.set(n, [{ round, channel, since }])
    },
    ' order by person_id, round_id, channel',
  )
}

/** Puts what a row tells of an address, after its person and its number, where the address stands among theirs. */
function ofAddress<T>(columns: PeopleColumns, known: Map<number, T[][]>, read: (row: CopiedRow) => T): (row: CopiedRow) => void {
  return (row) => {
    const n = columns.numberFor(row.int8())
    if (n === undefined) return
    const address = row.int8()
    const told = read(row)
    const [first, count] = [columns.addresses.first(n), columns.addresses.count(n)]
    for (let i = 0; i < count; i++) {
      if (columns.addresses.fields.id[first + i] !== address) continue
      let byAddress = known.get(n)
      if (!byAddress) known.set(n, (byAddress = Array.from({ length: count }, () => [])))
      byAddress[i].push(told)
    }
  }
}

/** Anything earlier stands for no instant: PostgreSQL’s own timestamps begin in 4713 BC. */
const EARLIEST = -3e14

function word(column: WordColumn, n: number, row: CopiedRow): void {
  row.span()
  if (row.length < 0) column.set(n, null)
  else column.setBytes(n, row.bytes, row.from, row.length)
}

const [ZERO, NINE, BLANK] = [48, 57, 32]
const isLetter = (byte: number): boolean => (byte | 32) >= 97 && (byte | 32) <= 122

/**
 * The street and house number of a line, as houseAndStreet tells them apart. Most lines are a number and words of several letters, or
 * such words alone: those are taken as bytes, without a string of every line. Whatever else is taken apart as text.
 */
function readStreet(columns: SubjectColumns, n: number, row: CopiedRow): void {
  row.span()
  const { bytes, from, length } = row
  if (length < 0) return
  const end = from + length
  let at = from
  let house = 0
  for (; at < end && at < from + 5 && bytes[at] >= ZERO && bytes[at] <= NINE; at++) house = house * 10 + bytes[at] - ZERO
  const numbered = at > from
  if (numbered && bytes[at] === BLANK) at++
  const street = at
  let word = 0
  let plain = at < end && (!numbered || bytes[at - 1] === BLANK)
  for (; plain && at < end; at++) {
    if (isLetter(bytes[at]) || bytes[at] >= 128) word++
    else if (bytes[at] === BLANK && word > 1) word = 0
    else plain = false
  }
  if (plain && word > 1) {
    columns.street.setBytes(n, bytes, street, end - street)
    if (numbered) columns.house.set(n, house)
    return
  }
  const told = houseAndStreet(bytes.toString('utf8', from, end))
  columns.street.set(n, told.street)
  if (told.house !== null) columns.house.set(n, told.house)
}

function suppressionOf(row: CopiedRow): Suppression {
  return {
    id: row.int8(),
    reason: row.text() as Reason,
    channels: channelsOfBits(row.int4()),
    since: row.float8() as number,
    until: row.float8(),
  }
}

/** Contacts still to come of some rounds; those of merged records belong to the one that stays. */
export async function roundsToCome(trx: Knex, rounds: number[], visit: (person: number, toCome: ContactToCome) => void): Promise<void> {
  const sql = PARTS.toCome.sql.replaceAll('{where}', `round_id in (${rounds.map(Number).join(',')})`)
  await copyRows(
    trx,
    `select coalesce(p.merged_into, p.id), t.round_id, t.channel, t.since from (${sql}) t join person p on p.id = t.person_id`,
    (row) => {
      visit(row.int8(), { round: row.int8(), channel: CHANNELS[row.int4()] as Channel, since: row.float8() as number })
    },
  )
}
