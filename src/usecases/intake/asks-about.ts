import { type CustomField, customKey } from '@/core/clean/custom'
import type { FieldWords } from '@/core/text/field-words'
import { nameKey } from '@/core/clean/name'
import type { PersonRow } from '@/core/clean/person-row'
import type { RuledField } from '@/core/match/columns'
import type { Batch } from '@/core/views/intake-views'
import type { KnownPerson } from '@/db/intake/intake-store'
import { postalText } from '@/db/directory/postal-rows'

/** What a row would change that somebody is to be asked about, each with what it was and would be. */
export function asksAbout(
  batch: Batch,
  fields: readonly CustomField[],
  person: KnownPerson,
  row: PersonRow,
  organisation: string | null,
  words: FieldWords,
): string[] {
  const ours: Record<RuledField, [string | null, string | null]> = {
    name: [
      `${person.given} ${person.familyName}`.trim(),
      row.name.key === nameKey(person.given, person.familyName) || (person.otherNames ?? []).includes(row.name.key ?? '')
        ? null
        : row.name.name,
    ],
    role: [person.role, row.role],
    relation: [person.relation, row.relation],
    county: [person.county, row.county],
    organisation:
      organisation === null || organisation === person.organisation ? [null, null] : [person.organisationName, row.organisation],
    address: [
      postalText(person),
      (['street', 'town', 'postcode'] as const).some((part) => row.postal[part] !== null && row.postal[part] !== person[part])
        ? postalText(row.postal)
        : null,
    ],
    'own fields': [null, null],
  }
  const rules = batch.options.rules ?? {}
  const said = Object.entries(ours)
    .filter(([field, [before, after]]) => rules[field as RuledField] === 'ask' && before && after && before !== after)
    .map(([field, [before, after]]) => `${field}: ${before} → ${after}`)
  const own =
    rules['own fields'] === 'ask'
      ? fields
          .filter(({ id }) => row.custom[id] !== undefined && person.custom[id] !== undefined && row.custom[id] !== person.custom[id])
          .map(({ id }) => words.change(customKey(id), person.custom[id], row.custom[id]))
      : []
  return [...said, ...own]
}
