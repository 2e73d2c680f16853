import { CHANNEL_TITLE } from '@/core/records/channels'
import { fieldText, numberText } from '@/core/text/field-text'
import type { Subject } from '@/core/records/subject'
import type { RecordBesideView } from '@/core/views/list-views'
import { db } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { ledgerOf } from './ledger-of'
import { openPerson } from './open-person'
import { fieldsOf } from './field-values'
import { postalText } from '@/db/directory/postal-rows'
import { recordRow } from '@/db/directory/record-rows'

/** So many of the latest entries are shown beside a list. */
const LATELY = 6

/** What is known of a record, short enough to stand beside a list. */
export async function besideRecord(actor: Actor, subject: Subject, id: number): Promise<RecordBesideView> {
  if (!Number.isSafeInteger(id)) throw new Refused('There is no such record in the directory.', 'not found')
  if (subject === 'person') {
    const person = await openPerson(actor, id)
    const facts = [
      fact('Relation to us', person.relation),
      fact('Address', person.postal),
      ...person.addresses.map((a) =>
        fact(CHANNEL_TITLE[a.channel], [a.value, !a.usable && (a.why ?? 'not usable'), a.suppressed].filter(Boolean).join(' · ')),
      ),
      ...person.custom.map(({ field, value }) => fact(field.name, value && fieldText(field, value))),
    ]
    return { facts: facts.flatMap((f) => f ?? []), lately: person.ledger.slice(0, LATELY).map(lately) }
  }
  const row = await recordRow(db(), subject, id)
  if (!row) throw new Refused('There is no such record in the directory.', 'not found')
  const own =
    subject === 'organisation'
      ? [fact('Industry', row.industry), fact('Head count', row.head_count), fact('Website', row.website), fact('Phone', row.phone)]
      : [
          fact('Kind', row.kind),
          fact('Roof area', row.roof_area && numberText(row.roof_area, 'm²')),
          fact('Year built', row.year_built),
          fact('Owner', row.owner),
          fact('Kind of owner', row.owner_kind),
          fact('Position', row.lat === null ? null : `${row.lat.toFixed(5)}, ${row.lon.toFixed(5)}`),
        ]
  const facts = [fact('Address', postalText(row)), ...own, ...(await fieldsOf(row.details))]
  const ledger = await ledgerOf(actor, subject === 'organisation' ? 'organisation_id' : 'premises_id', [id])
  return { facts: facts.flatMap((f) => f ?? []), lately: ledger.slice(0, LATELY).map(lately) }
}

const fact = (name: string, value: string | number | null | undefined) =>
  value === null || value === undefined || value === '' ? null : { name, value: String(value) }

const lately = ({ id, at, title, detail }: { id: number; at: string; title: string; detail: string | null }) => ({
  id,
  at,
  channel: null,
  text: [title, detail].filter(Boolean).join(' · '),
})
