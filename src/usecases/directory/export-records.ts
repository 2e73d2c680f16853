import { notesByPerson } from './notes-in-files'
import { notesOf } from '@/db/directory/note-rows'
import { columnTitle, DRAWN } from '@/core/facets/table'
import type { CustomValues } from '@/core/clean/custom'
import { standardFieldsOf } from '@/core/clean/standard-fields'
import { subjectOf } from '@/core/lists/line'
import { STANDING } from '@/core/screening/glance'
import { db } from '@/db/connection'
import { writeEntries } from '@/db/ledger'
import { personRecords } from '@/db/directory/person-records'
import { now } from '@/runtime/clock'
import { type Actor, Refused } from '@/usecases/team/actor'
import { type AccountAsked, answerFor, openersShown, reasonsOf } from '@/usecases/lists/list-account'
import { listFor } from '@/usecases/lists/open-list'
import { checkTaken } from '@/usecases/lists/check-taken'
import { csvRow } from '@/formats/write-csv'
import { closedNumbers, closedPlaces, standings, STATUS, type Told } from './closed-in-files'
import { dayText } from '@/core/text/written'
import { heldOrganisations } from '@/db/screening/held'
import { premisesHeld } from '@/db/screening/premises-held'
import { customFields } from '@/db/directory/custom-fields'
import { withRegister } from '@/db/screening/let-through'
import { addressesOf, peopleToExport, recordsToExport } from '@/db/directory/export-rows'
import { CHANNEL_NAME, CHANNELS, type Channel } from '@/core/records/channels'

const BLOCK = 2000

/** More people than any directory holds. */
const ALL = 100_000_000

/** One subject's file: its columns, and what each of some records has in them. */
interface Sheet {
  header: string[]
  rows(ids: number[]): Promise<Map<number, string[]>>
}

/**
 * Everything behind a tab or figure of a list as CSV, each with the reason it is there: a working file to go through, in the order
 * of the table, with the columns it shows that the file has not anyway, and with the latest notes. Each channel
 * is marked as open or closed, and a closed address is left out unless `closedToo` says why it is wanted, which is an entry for
 * everybody whose address that is. Gives it piece by piece, so that memory does not grow with the list; `rows` and `heading` say what it
 * will hold.
 */
export async function recordsCsv(
  actor: Actor,
  ask: AccountAsked & { list: number; closedToo?: string },
): Promise<{ name: string; list: string; what: string; heading: string[]; rows: number; pieces: AsyncGenerator<string> }> {
  const list = await listFor(actor, ask.list, 'use')
  const why = ask.closedToo?.trim() ?? null
  if (why !== null && (why === '' || why.length > 400))
    throw new Refused('Write why the closed addresses are wanted, in 1 to 400 characters.')
  const closed: Closed = { why, actor, file: list.name }
  const { lines, answer } = await answerFor(actor, ask, ALL)
  await checkTaken(actor, list.id, lines)
  const reasons = reasonsOf(answer, lines)
  const tab = ask.view.tab
  const none =
    tab === 'never'
      ? 'Never on the page'
      : tab === 'new'
        ? 'New since you last looked'
        : tab === 'moved'
          ? 'Moved by the line'
          : 'On the list'
  const subject = subjectOf(lines)
  const sheet =
    subject === 'person' ? await peopleSheet(closed) : subject === 'organisation' ? organisationsSheet(closed) : premisesSheet(closed)
  const columns = (ask.columns ?? []).map((key) => columnTitle(subject, key)).filter((title) => !sheet.header.includes(title))
  const shown = (ask.columns ?? []).flatMap((key, i) => (sheet.header.includes(columnTitle(subject, key)) ? [] : [i]))
  const withOpeners = subject === 'person' && ask.openers === true
  const heading = ['Record number', ...sheet.header, ...columns, ...(withOpeners ? [DRAWN.opener] : []), 'Reason', 'Line']
  async function* pieces(): AsyncGenerator<string> {
    yield `\uFEFF${csvRow(heading)}`
    for (let i = 0; i < answer.ids.length; i += BLOCK) {
      const ids = answer.ids.slice(i, i + BLOCK)
      const rows = await sheet.rows(ids)
      const openers = withOpeners ? await openersShown(actor, list.id, ids) : null
      yield ids
        .flatMap((id, at) => {
          const row = rows.get(id)
          const why = reasons.get(id)
          const cells = shown.map((column) => answer.cells?.[i + at]?.[column] ?? '')
          const opener = openers ? [openers.get(id)?.text ?? ''] : []
          return row ? csvRow([String(id), ...row, ...cells, ...opener, why?.title ?? none, why?.detail ?? '']) : []
        })
        .join('')
    }
  }
  const slug = list.name
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-|-$/g, '')
    .toLowerCase()
  const what = FILE_WORD[tab].replaceAll('-', ' ')
  return { name: `${slug}-${FILE_WORD[tab]}.csv`, list: list.name, what, heading, rows: answer.ids.length, pieces: pieces() }
}

const FILE_WORD = {
  on: 'on-the-list',
  out: 'left-out',
  unknown: 'unknown',
  never: 'never-on-the-page',
  new: 'new',
  moved: 'moved',
} as const

type Row = Record<string, string | number | null> & { id: number }

const cell = (value: string | number | null | undefined): string => (value === null || value === undefined ? '' : String(value))

/** Whether closed addresses come along, and on whose word and why. */
interface Closed {
  why: string | null
  actor: Actor
  file: string
}

async function peopleSheet(closed: Closed): Promise<Sheet> {
  const customs = (await customFields(db())).filter(({ id }) => id > 0)
  const rules = await withRegister(STANDING)
  return {
    header: [
      'Name',
      'Given name',
      'Family name',
      'Role',
      'Organisation',
      'Town',
      'Postcode',
      'Email',
      STATUS.email,
      'Phone',
      STATUS.phone,
      'Street',
      STATUS.post,
      'Direct message',
      STATUS.direct,
      'Relation to us',
      'Last contact',
      'Notes',
      ...customs.map(({ name }) => name),
    ],
    async rows(ids) {
      // Contacts are not asked about by what closes a channel whatever the round.
      const records = (await personRecords(db(), ids, new Set(ids))).map(({ record }) => record)
      const stand = await standings(records, rules)
      const recordOf = new Map(records.map((record) => [record.id, record]))
      const values = new Map<number, string>((await addressesOf(db(), ids)).map((a) => [a.id, a.value]))
      const rows = await peopleToExport(db(), ids)
      const notes = notesByPerson(await notesOf(db(), ids))
      type PersonRow = Row & { last_at: Date | null; custom: CustomValues }
      const office = await closedPlaces(
        rows.map((p: PersonRow) => ({ street: p.of_street, town: p.of_town, postcode: p.of_postcode }) as never),
      )
      const given: { person: number; channels: Channel[] }[] = []
      const sheet = new Map<number, string[]>()
      rows.forEach((p: PersonRow, i: number) => {
        const of = stand.get(p.id)
        const record = recordOf.get(p.id)
        if (!of || !record) return
        const channels: Channel[] = []
        const numbers = (channel: 'email' | 'phone' | 'direct'): string => {
          const verdict = of[channel]
          if (verdict.open) return values.get(verdict.address) ?? ''
          const first = record.addresses.find((a) => a.channel === channel && a.usable)
          if (!first || closed.why === null) return ''
          channels.push(channel)
          return values.get(first.id) ?? ''
        }
        // Their own address as a whole, or else that of their organisation as a whole.
        const own = p.street !== null || p.town !== null || p.postcode !== null
        const postal = own
          ? { street: p.street, town: p.town, postcode: p.postcode }
          : { street: p.of_street, town: p.of_town, postcode: p.of_postcode }
        const byPerson = of.post.text.startsWith('closed')
        const shut = byPerson || (!own && office[i])
        const post: Told = {
          status: byPerson ? of.post.text : shut ? 'closed: suppressed' : own || !postal.street ? of.post.text : 'of the organisation',
          shown: !shut || closed.why !== null,
        }
        if (shut && closed.why !== null && postal.street) channels.push('post')
        const last = p.last_at ? `${dayText(p.last_at)}, ${p.last_result ?? CHANNEL_NAME[p.last_channel as 'email']}` : 'never'
        sheet.set(p.id, [
          ...['name', 'given', 'family', 'role', 'organisation'].map((key) => cell(p[key])),
          cell(postal.town),
          post.shown ? cell(postal.postcode) : '',
          numbers('email'),
          of.email.text,
          numbers('phone'),
          of.phone.text,
          post.shown ? cell(postal.street) : '',
          post.status,
          numbers('direct'),
          of.direct.text,
          cell(p.relation),
          last,
          notes.get(p.id) ?? '',
          ...customs.map((field) => p.custom[field.id] ?? ''),
        ])
        if (channels.length > 0) given.push({ person: p.id, channels: CHANNELS.filter((channel) => channels.includes(channel)) })
      })
      if (closed.why !== null && given.length > 0) {
        const at = now()
        await db().transaction((trx) =>
          writeEntries(
            trx,
            given.map(({ person, channels }) => ({
              person,
              kind: 'exported' as const,
              at,
              actor: closed.actor.id,
              result: channels.join(', '),
              note: `${closed.why} (${closed.file})`,
            })),
            at,
          ),
        )
      }
      return sheet
    },
  }
}

const organisationsSheet = (closed: Closed): Sheet =>
  plainSheet(
    'organisation',
    {
      Name: 'name',
      Industry: 'industry',
      'Head count': 'head_count',
      Website: 'website',
      Phone: 'phone',
      Street: 'street',
      Town: 'town',
      County: 'county',
      Postcode: 'postcode',
    },
    closed,
  )

const premisesSheet = (closed: Closed): Sheet =>
  plainSheet(
    'premises',
    {
      Name: 'name',
      Kind: 'kind',
      Street: 'street',
      Town: 'town',
      County: 'county',
      Postcode: 'postcode',
      Latitude: 'lat',
      Longitude: 'lon',
      'Roof area (m²)': 'roof_area',
      'Year built': 'year_built',
      Owner: 'owner',
      'Kind of owner': 'owner_kind',
    },
    closed,
  )

/** Of some premises, those to which no letter may go as screening has it: for their household's or their owner's sake too. */
async function heldPremisesOf(ids: readonly number[]): Promise<Map<number, string[]>> {
  return new Map((await premisesHeld(db(), ids, now())).map((id) => [id, ['post']]))
}

/** A table as it stands, with the fields that every team has of its records, and whether its number and address are suppressed. */
function plainSheet(table: 'organisation' | 'premises', columns: Record<string, string>, closed: Closed): Sheet {
  const fields = standardFieldsOf(table)
  const numbered = Object.values(columns).includes('phone')
  return {
    header: [
      ...Object.keys(columns),
      ...(numbered ? [STATUS.phone] : []),
      STATUS.post,
      ...fields.map(({ name }) => name.replace(/^Organisation: /, '').replace(/^./, (letter) => letter.toUpperCase())),
    ],
    async rows(ids) {
      const rows: (Row & { details: CustomValues })[] = await recordsToExport(db(), table, ids, columns)
      const places = await closedPlaces(rows as never)
      const numbers = await closedNumbers(rows.map((row) => (numbered ? (row.phone as string | null) : null)))
      const whole = table === 'organisation' ? await heldOrganisations(ids) : await heldPremisesOf(ids)
      const given: { id: number; channels: string[] }[] = []
      const sheet = new Map(
        rows.map((row, i) => {
          const shutPost = places[i] || (whole.get(row.id)?.includes('post') ?? false)
          const shutPhone = numbers[i] || (whole.get(row.id)?.includes('phone') ?? false)
          const hidden =
            closed.why !== null ? [] : [...(shutPost ? ['street', 'postcode', 'lat', 'lon'] : []), ...(shutPhone ? ['phone'] : [])]
          const status = (shut: boolean, has: unknown) => (!has ? 'none' : shut ? 'closed: suppressed' : 'open')
          const shut = [...(shutPhone && row.phone ? ['phone'] : []), ...(shutPost && row.street ? ['post'] : [])]
          if (shut.length > 0) given.push({ id: row.id, channels: shut })
          return [
            row.id,
            [
              ...Object.values(columns).map((key) => (hidden.includes(key) ? '' : cell(row[key]))),
              ...(numbered ? [status(shutPhone, row.phone)] : []),
              status(shutPost, row.street),
              ...fields.map(({ id }) => row.details[id] ?? ''),
            ],
          ]
        }),
      )
      if (closed.why !== null && given.length > 0) {
        const at = now()
        await db().transaction((trx) =>
          writeEntries(
            trx,
            given.map(({ id, channels }) => ({
              ...(table === 'organisation' ? { organisation: id } : { premises: id }),
              kind: 'exported' as const,
              at,
              actor: closed.actor.id,
              result: channels.join(', '),
              note: `${closed.why} (${closed.file})`,
            })),
            at,
          ),
        )
      }
      return sheet
    },
  }
}
