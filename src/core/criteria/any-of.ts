import { array, object, string } from 'yup'
import { fold } from '../clean/fold'
import { type About, chips, type CriterionKind, type Form, type KnownWord, steady, namesNothing } from './kind'
import { type Told, byFact, verdictOf } from './facts'

export interface AnyCriterion<K extends string> {
  kind: K
  any: string[]
}

/** Any of several values, compared folded. `several`: a value holds more than one, set apart by semicolons. */
export function anyOf<K extends string, A extends About>({
  kind,
  of,
  group,
  name,
  synonyms,
  inName,
  single = false,
  fact,
  says: said,
  all,
  known,
  several,
  hint,
}: Told<K, A> & { says: string; all?: readonly string[]; known?: KnownWord; several?: true; hint?: string }): CriterionKind<
  AnyCriterion<K>,
  A
> {
  const one = all ? string().oneOf(all).required() : string().trim().max(120).required()
  const test = ({ any }: AnyCriterion<K>) => {
    const asked = new Set(any.map(fold))
    return several ? (value: string) => value.split(';').some((part) => asked.has(fold(part))) : (value: string) => asked.has(fold(value))
  }
  return {
    name,
    synonyms,
    inName,
    single,
    probe: { kind, any: [all?.[0] ?? '?'] },
    named: namesNothing,
    of,
    group,
    schema: object({
      kind: string()
        .oneOf([kind as string])
        .required(),
      any: array(one).min(1, 'choose at least one').max(60).required(),
    }).noUnknown() as never,
    blank: { kind, any: [] },
    whose: true,
    form: all
      ? { of: 'choices', legend: name, all, ...(hint ? { hint } : {}) }
      : ({ of: 'words', label: name, ...(known ? { known } : {}), ...(hint ? { hint } : {}) } satisfies Form),
    sentence: ({ any }) => [{ text: said }, ...chips(any, 'any', 'which?')],
    asks: () => [fact.asks],
    varies: steady,
    verdict: (criterion, record) => verdictOf(fact.value(record), test(criterion)),
    evaluate: (criterion, columns) => byFact(fact, columns, test(criterion)),
  }
}
