import { array, object, string } from 'yup'
import { Bitset } from '../columns/bitset'
import type { SubjectColumns } from '../columns/subject-columns'
import { type About, type Answer, chips, type CriterionKind, steady, type Verdict, namesNothing } from './kind'
import { saying, says, stems } from './wording'
import { type Fact, type Told, byColumn, verdictOf } from './facts'

export interface SaysCriterion<K extends string> {
  kind: K
  any: string[]
  all: string[]
  none: string[]
}

/**
 * Words or phrases by their stems: any of some, all of some, none of some. A phrase stands in its order, its words side by
 * side. Where `also` names other facts, a phrase may stand in any of them: found is yes; not found is no where the fact itself
 * is known, and unknown where it is missing. Several phrases go together by three values, so *none of* is the contrary of *any of*.
 */
export function saysWords<K extends string, A extends About>({
  kind,
  of,
  group,
  name,
  synonyms,
  inName,
  single = false,
  fact,
  also = [],
  says: said,
  hint,
}: Told<K, A> & { also?: Fact<A>[]; says: string; hint?: string }): CriterionKind<SaysCriterion<K>, A> {
  const words = () => array(string().trim().max(120).required()).max(60).required()
  const holds = (phrase: string) => {
    const stem = stems(phrase)
    return (value: string) => says(stems(value), stem)
  }
  return {
    name,
    synonyms,
    inName,
    single,
    probe: { kind, any: ['?'], all: [], none: [] },
    named: namesNothing,
    of,
    group,
    schema: object({
      kind: string()
        .oneOf([kind as string])
        .required(),
      any: words(),
      all: words(),
      none: words(),
    })
      .noUnknown()
      .test('some', 'name at least one word', (v) => v.any.length + v.all.length + v.none.length > 0) as never,
    blank: { kind, any: [], all: [], none: [] },
    whose: true,
    form: { of: 'says', ...(hint ? { hint } : {}) },
    sentence: ({ any, all, none }) => [
      { text: said },
      ...(any.length > 0 || all.length + none.length === 0 ? chips(any, 'any', 'which words?') : []),
      ...(all.length > 0 ? [{ text: any.length > 0 ? 'and all of' : 'all of' }, { chip: all.join(', '), field: 'all' }] : []),
      ...(none.length > 0 ? [{ text: any.length + all.length > 0 ? 'but not' : 'none of' }, { chip: none.join(', '), field: 'none' }] : []),
    ],
    asks: () => [fact, ...also].map((f) => f.asks),
    varies: steady,
    verdict({ any, all, none }, record) {
      const phrase = (p: string): Verdict => {
        const found = [fact, ...also].some((f) => verdictOf(f.value(record), holds(p)) === 'yes')
        return found ? 'yes' : fact.value(record) === null ? 'unknown' : 'no'
      }
      const parts = [...(any.length > 0 ? [eitherOf(any.map(phrase))] : []), ...all.map(phrase), ...none.map((p) => contrary(phrase(p)))]
      return parts.includes('no') ? 'no' : parts.includes('unknown') ? 'unknown' : 'yes'
    },
    evaluate({ any, all, none }, columns) {
      const { live, size } = columns as SubjectColumns
      const phrase = (p: string): Answer => {
        const says = (f: Fact<A>) => byColumn(f, columns, (column) => saying(column, [p]))
        const own = says(fact)
        const yes = also.reduce((found, f) => found.or(says(f).yes), own.yes)
        return { yes, unknown: own.unknown.andNot(yes) }
      }
      const parts = [
        ...(any.length > 0 ? [any.map(phrase).reduce((a, b) => union(a, b))] : []),
        ...all.map(phrase),
        ...none.map((p) => turned(phrase(p), live)),
      ]
      return parts.reduce((a, b) => meet(a, b), { yes: live.clone(), unknown: new Bitset(size) })
    },
  }
}

const eitherOf = (verdicts: Verdict[]): Verdict => (verdicts.includes('yes') ? 'yes' : verdicts.includes('unknown') ? 'unknown' : 'no')

const contrary = (verdict: Verdict): Verdict => (verdict === 'yes' ? 'no' : verdict === 'no' ? 'yes' : 'unknown')

// The same for everybody at once. Source of the three values: S. C. Kleene, Introduction to Metamathematics, 1952, section 64.
function union(a: Answer, b: Answer): Answer {
  const yes = a.yes.or(b.yes)
  return { yes, unknown: a.unknown.or(b.unknown).andNot(yes) }
}

function meet(a: Answer, b: Answer): Answer {
  const yes = a.yes.and(b.yes)
  return { yes, unknown: a.yes.or(a.unknown).and(b.yes.or(b.unknown)).andNot(yes) }
}

const turned = ({ yes, unknown }: Answer, live: Bitset): Answer => ({ yes: live.andNot(yes).andNot(unknown), unknown })
