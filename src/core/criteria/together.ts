import { array, boolean, mixed, object, string } from 'yup'
import type { Answer, CriterionKind, Phrase, Verdict } from './kind'

/** So many questions can be asked at once. */
export const MOST_TOGETHER = 6

/** Several questions in one line: whoever all of them are true of, or any of them. */
export interface TogetherCriterion<C> {
  kind: 'together'
  every: boolean
  parts: C[]
}

/** What each question of a line says of itself; the registry knows. */
interface Asking<C> {
  valid: (part: unknown) => C
  sentence: (part: C) => Phrase[]
  asks: CriterionKind<C, 'any'>['asks']
  named: CriterionKind<C, 'any'>['named']
}

/** Which question a path of the schema is about, from 1: `parts[1]` is the second. */
const numberIn = (path: string): number => Number(/\[(\d+)\]/.exec(path)?.[1] ?? 0) + 1

/** How several verdicts are joined: yes, no and unknown as in S. C. Kleene's strong logic of three values. */
export function joinedVerdict(every: boolean, verdicts: readonly Verdict[]): Verdict {
  const decides = every ? 'no' : 'yes'
  if (verdicts.includes(decides)) return decides
  return verdicts.includes('unknown') ? 'unknown' : every ? 'yes' : 'no'
}

/** The same of several answers over columns. Throws a RangeError where there is none to join. */
export function joinedAnswer(every: boolean, answers: readonly Answer[]): Answer {
  const [first, ...others] = answers
  if (!first) throw new RangeError('no question to join')
  let { yes } = first
  let possible = first.yes.or(first.unknown)
  for (const other of others) {
    const open = other.yes.or(other.unknown)
    yes = every ? yes.and(other.yes) : yes.or(other.yes)
    possible = every ? possible.and(open) : possible.or(open)
  }
  return { yes, unknown: possible.andNot(yes) }
}

/**
 * The kind that joins others. It has no verdict of its own: the registry asks each question and joins what they say, so that each is
 * kept by itself, and a question about an organisation or premises is asked of what the record belongs to.
 */
export function together<C>(of: Asking<C>): Omit<CriterionKind<TogetherCriterion<C>, 'any'>, 'verdict' | 'evaluate' | 'varies'> {
  return {
    name: 'Several questions at once',
    synonyms: ['and', 'or', 'both', 'either', 'all of', 'any of', 'combine', 'combination', 'condition', 'group', 'two things'],
    inName: 'sentence',
    single: false,
    probe: null,
    named: (c, call) => ({ ...c, parts: c.parts.map((part) => of.named(part, call)) }),
    of: 'any',
    group: 'lists',
    schema: object({
      kind: string()
        .oneOf(['together'] as const)
        .required(),
      every: boolean().required(),
      parts: array(
        mixed()
          .required('a question is missing')
          .test('whole', 'a question is not whole', (part, context) => {
            try {
              of.valid(part)
              return true
            } catch (error) {
              return context.createError({ message: `question ${numberIn(context.path)}: ${(error as Error).message}` })
            }
          }),
      )
        .min(2, 'ask at least two questions')
        .max(MOST_TOGETHER, `ask at most ${MOST_TOGETHER} questions`)
        .required(),
    }).noUnknown() as never,
    blank: { kind: 'together', every: true, parts: [] },
    sentence: ({ every, parts }) =>
      parts.length === 0
        ? [{ chip: 'which questions?', field: 'parts' }]
        : parts.flatMap((part, i) => [
            ...(i > 0 ? [{ chip: every ? 'and also' : 'or else', field: 'every' }] : []),
            ...of.sentence(part).map((phrase): Phrase => ('chip' in phrase ? { chip: phrase.chip, field: `parts ${i}` } : phrase)),
          ]),
    asks: ({ parts }) => [...new Set(parts.flatMap(of.asks))],
  }
}
