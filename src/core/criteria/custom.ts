import { array, type InferType, number, object, string } from 'yup'
import { type CustomKey, CUSTOM_KINDS, customKey } from '../clean/custom'
import { fold } from '../clean/fold'
import { Bitset } from '../columns/bitset'
import { byWord, chips, type CriterionKind, steady, namesNothing, rangeText } from './kind'
import { fieldText } from '../text/field-text'
import type { WordColumn } from '../columns/words'
import { saying, says, stems } from './wording'

const schema = object({
  kind: string()
    .oneOf(['custom'] as const)
    .required(),
  field: object({
    id: number().integer().positive('choose a field').required(),
    name: string().required(),
    of: string().oneOf(CUSTOM_KINDS).required(),
  }).required(),
  any: array(string().trim().max(200).required()).max(60).required(),
  least: string().max(20).nullable().defined(),
  most: string().max(20).nullable().defined(),
})
  .noUnknown()
  .test('asks', 'say what is asked about the field', ({ field, any, least, most }) =>
    ranged(field.of) ? least !== null || most !== null : any.length > 0,
  )
  .test(
    'ends',
    'an end of the range is no number',
    ({ field, least, most }) =>
      field.of !== 'number' || [least, most].every((end) => end === null || (end.trim() !== '' && Number.isFinite(Number(end)))),
  )
  .test(
    'days',
    'an end of the range is no date',
    ({ field, least, most }) => field.of !== 'date' || [least, most].every((end) => end === null || /^\d{4}-\d\d-\d\d$/.test(end)),
  )
export type CustomCriterion = InferType<typeof schema>

const ranged = (of: string) => of === 'number' || of === 'date'

/**
 * A field of the team's own. Text: any of several words or phrases by their stems; a choice, yes or no: any of them; a
 * number or a date: from and to, both ends included. A person without a value is unknown.
 */
export const custom: CriterionKind<CustomCriterion> = {
  name: 'A field of our own',
  synonyms: ['custom field', 'own field', 'property', 'attribute'],
  inName: 'sentence',
  single: false,
  probe: null,
  named: namesNothing,
  of: 'person',
  group: 'who they are',
  schema,
  blank: { kind: 'custom', field: { id: 0, name: '', of: 'text' }, any: [], least: null, most: null },
  whose: true,
  sentence: ({ field, any, least, most }) => [
    ...(field.name ? [{ text: `“${field.name}”` }] : []),
    ...(field.id === 0
      ? [{ chip: 'which field?', field: 'field' }]
      : ranged(field.of)
        ? [
            { text: 'is' },
            {
              chip: rangeText(
                least === null ? null : fieldText({ kind: field.of }, least),
                most === null ? null : fieldText({ kind: field.of }, most),
                field.of === 'date' ? ['or later', 'or earlier'] : undefined,
              ),
              field: 'least',
            },
          ]
        : [{ text: field.of === 'text' ? 'says' : 'is' }, ...chips(any, 'any', 'what?')]),
  ],
  asks: ({ field }): CustomKey[] => [customKey(field.id)],
  varies: steady,
  verdict(criterion, record) {
    const value = record.custom[criterion.field.id]
    return value === undefined ? 'unknown' : holds(criterion)(value) ? 'yes' : 'no'
  },
  evaluate(criterion, columns) {
    const column = columns.custom.get(criterion.field.id)
    const asked = () =>
      criterion.field.of === 'text' ? saying(column as WordColumn, criterion.any) : (column as WordColumn).words.map(holds(criterion))
    return column ? byWord(columns, column, asked()) : { yes: new Bitset(columns.size), unknown: columns.live.clone() }
  },
}

function holds({ field, any, least, most }: CustomCriterion): (value: string) => boolean {
  if (field.of === 'number')
    return (value) => (least === null || Number(value) >= Number(least)) && (most === null || Number(value) <= Number(most))
  // Dates as YYYY-MM-DD stand in order as text.
  if (field.of === 'date') return (value) => (least === null || value >= least) && (most === null || value <= most)
  if (field.of === 'text') {
    const phrases = any.map(stems)
    return (value) => {
      const wording = stems(value)
      return phrases.some((phrase) => says(wording, phrase))
    }
  }
  const asked = new Set(any.map(fold))
  return (value) => asked.has(fold(value))
}
