import { array, type InferType, number, object, string } from 'yup'
import { type Pattern, patterns, shared, sharedByTwo, type Value } from '@/core/checks/patterns'
import { fold } from '@/core/clean/fold'
import type { Question } from '@/core/criteria/registry'
import { FACETS } from '@/core/facets/registry'
import type { Line } from '@/core/lists/line'
import { picked, type Sources } from '@/engine/sources'
import { moment, pageOfLines } from './parts'
import { verb } from './verb'

const ids = () => array(number().integer().required()).max(5000).required()
const schema = object({
  ...pageOfLines,
  moment: moment(),
  fit: ids(),
  unfit: ids(),
  /** Of whom it is unknown what a line asks, and who are on because it counts that as yes. */
  unknown: array(object({ line: string().required(), ids: ids() })).required(),
})
export type FitPatternsRequest = InferType<typeof schema>

/** What stands out among those who do not belong, and the list as it would be without them. */
export interface FitPattern extends Pattern {
  /** What the value is a value of, in words. */
  title: string
  /** The line that would be added, or the one that would be changed. */
  line: Line
  on: number
  after: number
}

const WORD = 'role word'
const UNKNOWN = 'unknown'
/** Shorter words of a role say nothing. */
const SHORTEST = 3
const MOST = 5

async function answerFitPatterns(sources: Sources, request: FitPatternsRequest): Promise<{ patterns: FitPattern[] }> {
  const { lines, named, moment, fit, unfit, unknown } = request
  const work = await picked(sources, [{ lines, named }])
  const { directory, columns } = sources.model
  const facets = Object.entries(FACETS.person).flatMap(([key, facet]) =>
    facet.criterion ? [{ key, facet, values: facet.values(directory, moment) }] : [],
  )
  const records = [...fit.map((id) => ({ id, fits: true })), ...unfit.map((id) => ({ id, fits: false }))].map(({ id, fits }) => {
    const n = columns.numberFor(id)
    const values = new Map<string, string[]>()
    for (const { line, ids: of } of unknown) if (of.includes(id)) values.set(UNKNOWN, [...(values.get(UNKNOWN) ?? []), line])
    if (n !== undefined) {
      for (const { key, values: known } of facets) {
        const at = known.at(n)
        if (at >= 0) values.set(key, [known.labels[at]])
      }
      const words = fold(columns.role.get(n) ?? '').split(/[^\p{L}\p{N}]+/u)
      values.set(
        WORD,
        words.filter((word) => word.length >= SHORTEST),
      )
    }
    return { fits, values }
  })
  const on = work({ lines, named }, moment).on.count()
  const counted = [...shared(records), ...sharedByTwo(records, (key) => key !== UNKNOWN)]
  const found = patterns(counted, { fit: fit.length, unfit: unfit.length })
  const asked = new Set<string>()
  const told: FitPattern[] = []
  for (const pattern of found) {
    if (told.length === MOST) break
    const made = lineOf(pattern, lines)
    const after = made && work({ lines: made.lines, named }, moment).on.count()
    // What takes out the very same people says it once.
    const same = `${after} ${pattern.fit} ${pattern.unfit}`
    if (!made || after === null || after === on || asked.has(same)) continue
    asked.add(same)
    told.push({ ...pattern, title: titleOf(pattern), line: made.line, on, after })
  }
  return { patterns: told }
}

const nameOfKey = (key: string): string => (key === WORD ? 'Word of the role' : key === UNKNOWN ? 'Unknown' : FACETS.person[key].title)
const titleOf = ({ key, and }: Pattern): string => (and ? `${nameOfKey(key)} and ${nameOfKey(and.key)}` : nameOfKey(key))

const questionOf = ({ key, label }: Value): Question | undefined =>
  key === WORD ? { kind: 'role', any: [label] } : (FACETS.person[key].criterion?.(label) as Question | undefined)

/** The lines with what a pattern proposes: one more that drops its value or values, or one that counts unknown as no. */
function lineOf(pattern: Pattern, lines: readonly Line[]): { line: Line; lines: Line[] } | null {
  const { key, label, and } = pattern
  if (key === UNKNOWN) {
    const line = lines.find((own) => own.id === label)
    if (line?.verb !== 'keep') return null
    const stricter: Line = { ...line, unknownAsYes: false }
    return { line: stricter, lines: lines.map((own) => (own.id === label ? stricter : own)) }
  }
  const parts = [pattern, ...(and ? [and] : [])].map(questionOf)
  if (!parts.every((part) => part !== undefined)) return null
  const line: Line = {
    id: `fit-${key}-${fold(label)}${and ? `-${and.key}-${fold(and.label)}` : ''}`.replace(/[^a-z0-9-]+/g, '-').slice(0, 40),
    verb: 'drop',
    off: false,
    unknownAsYes: false,
    criterion: parts.length === 1 ? parts[0] : { kind: 'together', every: true, parts },
  }
  return { line, lines: [...lines, line] }
}

export const fitPatterns = verb(schema, answerFitPatterns, 10_000)
