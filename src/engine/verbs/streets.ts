import { SUBJECTS } from '@/core/records/subject'
import { string, object, type InferType } from 'yup'
import { screenName } from './parts'
import { verb } from './verb'
import { distance } from 'fastest-levenshtein'
import { comparableStreet } from '@/core/clean/postal'
import type { Sources } from '@/engine/sources'

const schema = object({ ...screenName, subject: string().oneOf(SUBJECTS).required(), typed: string().defined() })
export type StreetsRequest = InferType<typeof schema>

/** Streets of a subject that are likest to what was typed. */
async function answerStreets(sources: Sources, { subject, typed }: StreetsRequest): Promise<StreetsAnswer> {
  const columns = sources.model.directory.of(subject)
  const names = columns.street.derived(comparableStreet)
  const counts = new Map<string, { street: string; count: number }>()
  const of = names.map((name, code) => {
    let known = counts.get(name)
    if (!known) counts.set(name, (known = { street: columns.street.words[code], count: 0 }))
    return known
  })
  columns.live.forEach((n) => {
    const code = columns.street.codeAt(n)
    if (code >= 0) of[code].count++
  })
  const wanted = comparableStreet(typed)
  const likely = [...counts]
    .filter(([, { count }]) => count > 0)
    .map(([name, row]) => ({ ...row, far: name === wanted ? -1 : name.startsWith(wanted) ? 0 : distance(name, wanted) }))
    .filter(({ far }) => far <= Math.max(2, wanted.length / 3))
    .sort((a, b) => a.far - b.far || b.count - a.count)
    .slice(0, 8)
  return { exact: counts.get(wanted)?.count ?? 0, likely: likely.map(({ street, count }) => ({ street, count })) }
}

export interface StreetsAnswer {
  /** How many are on a street of just that name. */
  exact: number
  likely: { street: string; count: number }[]
}

export const streets = verb(schema, answerStreets)
