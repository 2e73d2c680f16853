import { dayText, dateText } from '@/core/text/written'
import { FIELD } from '@/core/clean/standard-fields'
import { localDate } from '@/core/calendar/local-day'
import type { PersonRecord } from '@/core/records/person-record'
import { countryOf } from '@/core/screening/country-of'
import { establishedUntil, isEstablished } from '@/core/screening/established'
import type { ScreeningMoment } from '@/core/screening/kind'
import type { Rule } from '@/core/screening/rules'
import { suppressionOf } from '@/core/screening/suppressed'
import { db } from '@/db/connection'
import { changedLately } from '@/db/rounds/stopped'
import { sentenceCase } from '@/usecases/screening/evidence'

/** For so many days a role or an organisation that changed is told of (common practice, no source). */
const LATELY = 90

/**
 * What somebody should know of people who are clear, by their id: a role or an organisation that changed lately and that nobody confirmed,
 * and a number on the register that an established relationship opens, with its date. It holds nobody back.
 */
export async function clearMarks(
  records: readonly PersonRecord[],
  rules: readonly Rule[],
  moment: ScreeningMoment,
): Promise<Map<number, string[]>> {
  const marks = new Map<number, string[]>()
  const add = (person: number, mark: string) => marks.set(person, [...(marks.get(person) ?? []), mark])
  const since = new Date(moment.asOf - LATELY * 86_400_000)
  const ids = records.map(({ id }) => id)
  for (const { person_id, field, at, before, after } of await changedLately(db(), ids, since))
    add(person_id, `${sentenceCase(field)} changed on ${dayText(at)}, not confirmed: ${before} → ${after ?? 'none'}`)
  const established = rules.flatMap((rule) => (rule.kind === 'register' ? (rule.established ?? []) : []))
  if (established.length === 0) return marks
  for (const record of records) {
    const on = record.addresses.some(
      (address) =>
        address.channel === 'phone' &&
        established.includes(countryOf(record, address) ?? '') &&
        suppressionOf(record, address, ['register'], moment.asOf) !== null,
    )
    if (!on || !isEstablished(record.custom, localDate(moment.asOf, moment.zone))) continue
    const by = establishedUntil(record.custom[FIELD.lastPurchase], record.custom[FIELD.lastInquiry])
    if (by) add(record.id, `On the register; may be called until ${dateText(by.until)}: ${by.by} on ${dateText(by.on)}`)
  }
  return marks
}
