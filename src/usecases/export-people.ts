import { CHANNEL_NAME } from '@/core/columns/person-record'
import type { CustomValues } from '@/core/clean/custom'
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

const HEADER = ['Record number', 'Name', 'Given name', 'Family name', 'Role', 'Organisation', 'Town', 'Postcode', 'E-mail', 'Phone', 'Street', 'Relation to us', 'Last contact', 'Reason', 'Line']

/**
 * Everybody behind a tab or figure of a list as CSV, each with the reason they are there: a working file to go through.
 * Gives it piece by piece, so that memory does not grow with the list.
 */
export async function peopleCsv(actor: Actor, ask: AccountAsked & { list: number }): Promise<{ name: string; pieces: AsyncGenerator<string> }> {
  const list = await listFor(actor, ask.list, 'use')
  const { lines, answer } = await answerFor(actor, ask, ALL)
  const reasons = reasonsOf(answer, lines)
  const tab = ask.view.tab
  const none = tab === 'never' ? 'Never on the page' : tab === 'new' ? 'New since you last looked' : tab === 'moved' ? 'Moved by the line' : 'On the list'
  const customs = (await customFields(db())).filter(({ id }) => id > 0)
  async function* pieces(): AsyncGenerator<string> {
    yield `\uFEFF${csvRow([...HEADER, ...customs.map(({ name }) => name)])}`
    for (let i = 0; i < answer.ids.length; i += BLOCK) {
      const ids = answer.ids.slice(i, i + BLOCK)
      const rows = new Map((await rowsOf(ids)).map((row) => [row.id, row]))
      yield ids
        .flatMap((id) => {
          const p = rows.get(id)
          if (!p) return []
          const why = reasons.get(id)
          const last = p.last_at ? `${dayText(p.last_at)}, ${p.last_result ?? CHANNEL_NAME[p.last_channel as 'email']}` : 'never'
          return csvRow([String(p.id), p.name, p.given, p.family, p.role ?? '', p.organisation ?? '', p.town ?? '', p.postcode ?? '', p.email ?? '', p.phone ?? '', p.street ?? '', p.relation ?? '', last, why?.title ?? none, why?.detail ?? '', ...customs.map((field) => p.custom[field.id] ?? '')])
        })
        .join('')
    }
  }
  const slug = list.name.replace(/[^\p{L}\p{N}]+/gu, '-').replace(/^-|-$/g, '').toLowerCase()
  return { name: `${slug}-${FILE_WORD[tab]}.csv`, pieces: pieces() }
}

const FILE_WORD = { on: 'on-the-list', out: 'left-out', unknown: 'unknown', never: 'never-on-the-page', new: 'new', moved: 'moved' } as const

async function rowsOf(ids: number[]) {
  const first = (channel: string) => `(select a.value from address a where a.person_id = p.id and a.channel = '${channel}' and a.usable order by a.position, a.id limit 1)`
  const { rows } = await db().raw(
    `select p.id, p.name, p.given, p.family, p.role, o.name as organisation, coalesce(p.town, o.town) as town, coalesce(p.postcode, o.postcode) as postcode, coalesce(p.street, o.street) as street,
       p.relation, p.custom, f.last_at, f.last_channel, f.last_result, ${first('email')} as email, ${first('phone')} as phone
     from person p left join organisation o on o.id = p.organisation_id left join facts f on f.person_id = p.id where p.id = any(?::bigint[])`,
    [ids] as never,
  )
  return rows as (Record<string, string | null> & { id: number; name: string; given: string; family: string; last_at: Date | null; custom: CustomValues })[]
}
