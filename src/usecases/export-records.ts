import { CHANNEL_NAME } from '@/core/columns/person-record'
import type { CustomValues } from '@/core/clean/custom'
import { standardFieldsOf } from '@/core/clean/standard-fields'
import { subjectOf } from '@/core/lists/line'
import { db } from '@/db/connection'
import type { Actor } from './actor'
import { customFields } from './custom-fields'
import { type AccountAsked, answerFor, reasonsOf } from './list-account'
import { listFor } from './lists'
import { csvRow } from './write-csv'
import { dayText } from './words'

const BLOCK = 2000
/** More people than any directory holds. */
const ALL = 100_000_000

/** One subject's file: its columns, and what each of some records has in them. */
interface Sheet {
  header: string[]
  rows(ids: number[]): Promise<Map<number, string[]>>
}

/**
 * Everything behind a tab or figure of a list as CSV, each with the reason it is there: a working file to go through.
 * Gives it piece by piece, so that memory does not grow with the list.
 */
export async function recordsCsv(actor: Actor, ask: AccountAsked & { list: number }): Promise<{ name: string; pieces: AsyncGenerator<string> }> {
  const list = await listFor(actor, ask.list, 'use')
  const { lines, answer } = await answerFor(actor, ask, ALL)
  const reasons = reasonsOf(answer, lines)
  const tab = ask.view.tab
  const none = tab === 'never' ? 'Never on the page' : tab === 'new' ? 'New since you last looked' : tab === 'moved' ? 'Moved by the line' : 'On the list'
  const subject = subjectOf(lines)
  const sheet = subject === 'person' ? await peopleSheet() : subject === 'organisation' ? organisationsSheet() : premisesSheet()
  async function* pieces(): AsyncGenerator<string> {
    yield `\uFEFF${csvRow(['Record number', ...sheet.header, 'Reason', 'Line'])}`
    for (let i = 0; i < answer.ids.length; i += BLOCK) {
      const ids = answer.ids.slice(i, i + BLOCK)
      const rows = await sheet.rows(ids)
      yield ids
        .flatMap((id) => {
          const row = rows.get(id)
          const why = reasons.get(id)
          return row ? csvRow([String(id), ...row, why?.title ?? none, why?.detail ?? '']) : []
        })
        .join('')
    }
  }
  const slug = list.name.replace(/[^\p{L}\p{N}]+/gu, '-').replace(/^-|-$/g, '').toLowerCase()
  return { name: `${slug}-${FILE_WORD[tab]}.csv`, pieces: pieces() }
}

const FILE_WORD = { on: 'on-the-list', out: 'left-out', unknown: 'unknown', never: 'never-on-the-page', new: 'new', moved: 'moved' } as const

type Row = Record<string, string | number | null> & { id: number }
const cell = (value: string | number | null | undefined): string => (value === null || value === undefined ? '' : String(value))

async function peopleSheet(): Promise<Sheet> {
  const customs = (await customFields(db())).filter(({ id }) => id > 0)
  const first = (channel: string) => `(select a.value from address a where a.person_id = p.id and a.channel = '${channel}' and a.usable order by a.position, a.id limit 1)`
  return {
    header: ['Name', 'Given name', 'Family name', 'Role', 'Organisation', 'Town', 'Postcode', 'E-mail', 'Phone', 'Street', 'Relation to us', 'Last contact', ...customs.map(({ name }) => name)],
    async rows(ids) {
      const { rows } = await db().raw(
        `select p.id, p.name, p.given, p.family, p.role, o.name as organisation, coalesce(p.town, o.town) as town, coalesce(p.postcode, o.postcode) as postcode, coalesce(p.street, o.street) as street,
           p.relation, p.custom, f.last_at, f.last_channel, f.last_result, ${first('email')} as email, ${first('phone')} as phone
         from person p left join organisation o on o.id = p.organisation_id left join facts f on f.person_id = p.id where p.id = any(?::bigint[])`,
        [ids] as never,
      )
      return new Map(
        rows.map((p: Row & { last_at: Date | null; custom: CustomValues }) => {
          const last = p.last_at ? `${dayText(p.last_at)}, ${p.last_result ?? CHANNEL_NAME[p.last_channel as 'email']}` : 'never'
          return [p.id, [...['name', 'given', 'family', 'role', 'organisation', 'town', 'postcode', 'email', 'phone', 'street', 'relation'].map((key) => cell(p[key])), last, ...customs.map((field) => p.custom[field.id] ?? '')]]
        }),
      )
    },
  }
}

const organisationsSheet = (): Sheet => plainSheet('organisation', { Name: 'name', Industry: 'industry', 'Head count': 'head_count', Website: 'website', Phone: 'phone', Street: 'street', Town: 'town', County: 'county', Postcode: 'postcode' })

const premisesSheet = (): Sheet => plainSheet('premises', { Name: 'name', Kind: 'kind', Street: 'street', Town: 'town', County: 'county', Postcode: 'postcode', Latitude: 'lat', Longitude: 'lon', 'Roof area (m²)': 'roof_area', 'Year built': 'year_built', Owner: 'owner', 'Kind of owner': 'owner_kind' })

/** A table as it stands, with the fields that every team has of its records. */
function plainSheet(table: 'organisation' | 'premises', columns: Record<string, string>): Sheet {
  const fields = standardFieldsOf(table)
  return {
    header: [...Object.keys(columns), ...fields.map(({ name }) => name.replace(/^Organisation: /, '').replace(/^./, (letter) => letter.toUpperCase()))],
    async rows(ids) {
      const rows: (Row & { details: CustomValues })[] = await db()(table).whereRaw('id = any(?::bigint[])', [ids]).select('id', 'details', ...Object.values(columns))
      return new Map(rows.map((row) => [row.id, [...Object.values(columns).map((key) => cell(row[key])), ...fields.map(({ id }) => row.details[id] ?? '')]]))
    },
  }
}
