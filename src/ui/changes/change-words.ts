import type { Subject } from '@/core/records/subject'
import type { ChangeRow } from '@/core/views/change-views'
import { day } from '@/ui/book/figures'

const noon = (date: string) => day(`${date}T12:00:00Z`)

/** When a change happened, as far as it is proved: a day, between two days, or by a day. */
export function whenText({ after, by }: { after: string | null; by: string }): string {
  if (after === null) return `by ${noon(by)}`
  const next = new Date(`${after}T12:00:00Z`)
  next.setUTCDate(next.getUTCDate() + 1)
  const earliest = next.toISOString().slice(0, 10)
  return earliest === by ? noon(by) : `between ${noon(earliest)} and ${noon(by)}`
}

/** What changed, or what happened, in words: before and after apart, so that they can be told from each other. */
export function whatText(row: ChangeRow): { said: string; after: string | null } {
  if (row.field) {
    if (row.decide === 'left' || (row.field.name === 'organisation' && row.field.after === 'none'))
      return { said: `left ${row.field.before}`, after: null }
    return { said: `${row.field.name}: ${row.field.before} →`, after: row.field.after }
  }
  const text = row.text ?? row.kind
  const same = text.toLowerCase().startsWith(row.kind.toLowerCase())
  return { said: same ? text.charAt(0).toUpperCase() + text.slice(1) : `${row.kind}: ${text}`, after: null }
}

/** Who says so, and how sure it is. */
export function sourceText(row: ChangeRow): string {
  const who = row.sources > 1 ? `${row.sources} sources agree` : row.source
  return row.sure === 'to be confirmed' ? `${who}, to be confirmed` : who
}

const PATH: Record<Subject, string> = { person: 'people', organisation: 'organisations', premises: 'premises' }
/** Returns the path of a record's page. */
export const recordPath = (of: Subject, id: number): string => `/directory/${PATH[of]}/${id}`

/** What a change does, or asks for, in one line. */
export function effectText(row: ChangeRow): string {
  const parts = (['no longer fits', 'now fits', 'stays on'] as const).flatMap((is) => {
    const lists = row.lists.filter((list) => list.is === is).map((list) => list.name)
    if (lists.length === 0) return []
    const shown = lists.length > 3 ? `${lists.slice(0, 3).join(', ')} and ${lists.length - 3} more` : lists.join(', ')
    if (is === 'no longer fits') return [`would leave ${shown} when it is next requalified`]
    // What happens to somebody changes no field: they are on the list, before and after.
    return [`${is === 'stays on' && row.field === null ? 'on' : is} ${shown}`]
  })
  if (row.after_contact) {
    const [at, by] = row.after_contact.split('|')
    parts.unshift(`after our contact of ${day(at)}${by ? ` by ${by}` : ''}`)
  }
  if (row.leads !== null) parts.unshift(row.leads ? `in talks with ${row.leads}` : 'we are in talks')
  return parts.join(' · ')
}
