import { type InferType, mixed, number, object, string } from 'yup'
import { Bitset } from '../columns/bitset'
import type { PersonRecord, RoundSeat } from '../records/person-record'
import type { RoundMembers } from '../columns/people-columns'
import type { CriterionKind, Moment } from './kind'

const schema = object({
  kind: string()
    .oneOf(['round'] as const)
    .required(),
  list: object({ id: number().integer().positive('choose a list').required(), name: string().required() }).required(),
  /** Any released round, the last one, or the one with this number. */
  which: mixed<'any' | 'last' | number>()
    .test(
      'which',
      'any round, the last one, or its number',
      (v) => v === 'any' || v === 'last' || (Number.isInteger(v) && (v as number) > 0),
    )
    .required(),
  stood: string()
    .oneOf(['listed', 'clear', 'held back'] as const)
    .required(),
}).noUnknown()
export type RoundCriterion = InferType<typeof schema>

/** Stood in a released round of a list: listed, clear to contact, or held back. Never unknown. */
export const round: CriterionKind<RoundCriterion> = {
  name: 'In a round of a list',
  synonyms: ['campaign', 'mailing', 'already contacted', 'already mailed', 'previous campaign', 'wave'],
  inName: 'sentence',
  single: false,
  probe: null,
  named: (c, call) => ({ ...c, list: call(c.list, { what: 'rounds' }) }),
  of: 'person',
  group: 'lists',
  schema,
  blank: { kind: 'round', list: { id: 0, name: '' }, which: 'any', stood: 'listed' },
  sentence: ({ list, which, stood }) => [
    { text: 'was' },
    { chip: stood === 'clear' ? 'clear to contact' : stood, field: 'stood' },
    { text: 'in' },
    { chip: which === 'any' ? 'any round' : which === 'last' ? 'the last round' : `round ${which}`, field: 'which' },
    { text: 'of' },
    { chip: list.name || 'which list?', field: 'list' },
  ],
  asks: () => ['round'],
  varies: (c, moment) => (c.which === 'last' ? String(moment.lastRounds?.[c.list.id] ?? '') : ''),
  verdict: (c, record, moment) =>
    seats(c, record, moment).some((seat) => c.stood === 'listed' || seat.clear === (c.stood === 'clear')) ? 'yes' : 'no',
  evaluate(c, columns, moment) {
    const all = [...(columns.rounds.get(c.list.id) ?? new Map<number, RoundMembers>())].filter(([number]) => meant(c, number, moment))
    const yes = all.reduce(
      (sum, [, { listed, clear }]) => sum.or(c.stood === 'listed' ? listed : c.stood === 'clear' ? clear : listed.andNot(clear)),
      new Bitset(columns.size),
    )
    return { yes: yes.and(columns.live), unknown: new Bitset(columns.size) }
  },
}

function meant({ which, list }: RoundCriterion, number: number, moment: Moment): boolean {
  return which === 'any' || number === (which === 'last' ? moment.lastRounds?.[list.id] : which)
}

function seats(c: RoundCriterion, record: PersonRecord, moment: Moment): RoundSeat[] {
  return record.rounds.filter((seat) => seat.list === c.list.id && meant(c, seat.number, moment))
}
