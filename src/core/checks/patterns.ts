import { adjusted, testable } from './adjust'
import { fisherUpper } from './fisher'

/** What somebody said of a record of a sample. */
export const VERDICTS = ['fits', 'does not', 'cannot tell'] as const
export type Verdict = (typeof VERDICTS)[number]

/** Why a record does not belong. */
export const UNFIT_REASONS = ['role', 'organisation', 'level', 'place', 'known to us', 'other'] as const
export type UnfitReason = (typeof UNFIT_REASONS)[number]

/** A value of a record, by what it is a value of. */
export interface Value {
  key: string
  label: string
}

/** How many of the records that were judged have one value, or both of two, of those that fit and of those that do not. */
export interface Shared extends Value {
  /** The other value, where it is two at once. */
  and?: Value
  fit: number
  unfit: number
}

export interface Pattern extends Shared {
  /** How often chance alone would put so many of them among the unfit. */
  chance: number
  /** The same after all that was tried. */
  adjusted: number
}

/** Of what is offered, at most this share is found by chance. */
export const MOST_BY_CHANCE = 0.1
/** One record that does not belong is no pattern. */
const LEAST = 2

const nameOf = ({ key, label }: Value): string => `${key}\0${label}`

/**
 * Values, and pairs of values, that stand out among the records that do not belong, the clearest first. Each is tested against chance
 * by Fisher's exact test, and adjusted for all that was tried, but for what so few records have that it could never show anything. A
 * pair is offered only where it says more than either of its values.
 */
export function patterns(values: readonly Shared[], judged: { fit: number; unfit: number }): Pattern[] {
  const all = judged.fit + judged.unfit
  const chanceOf = (unfit: number, marked: number) => fisherUpper({ both: unfit, marked, group: judged.unfit, all })
  const least = values.map(({ fit, unfit }) => chanceOf(Math.min(fit + unfit, judged.unfit), fit + unfit))
  const could = testable(least, MOST_BY_CHANCE)
  const tried = values.filter((_, i) => could[i])
  const chances = tried.map(({ fit, unfit }) => chanceOf(unfit, fit + unfit))
  const after = adjusted(chances)
  const alone = new Map(tried.flatMap((own, i) => (own.and ? [] : [[nameOf(own), chances[i]] as const])))
  return tried
    .map((own, i): Pattern => ({ ...own, chance: chances[i], adjusted: after[i] }))
    .filter((own) => own.unfit >= LEAST && own.adjusted <= MOST_BY_CHANCE)
    .filter((own) => !own.and || [own, own.and].every((value) => own.chance < (alone.get(nameOf(value)) ?? 1)))
    .sort((a, b) => a.chance - b.chance || b.unfit - a.unfit || (textOf(a) < textOf(b) ? -1 : 1))
}

const textOf = (own: Shared): string => nameOf(own) + (own.and ? nameOf(own.and) : '')

/** A record of a sample, with its values by key: a key may have several. */
export interface Judged {
  fits: boolean
  values: ReadonlyMap<string, readonly string[]>
}

/** Counts of each value among records. */
export function shared(records: readonly Judged[]): Shared[] {
  const found = new Map<string, Shared>()
  for (const { fits, values } of records)
    for (const value of valuesOf(values)) {
      const own = found.get(nameOf(value)) ?? { ...value, fit: 0, unfit: 0 }
      if (fits) own.fit++
      else own.unfit++
      found.set(nameOf(value), own)
    }
  return [...found.values()]
}

/**
 * Counts of each pair of values among records, of those keys that `pairs` takes. Pairs that only one record has are left out, and those
 * that the very same records have as one of the two has alone, since they say no more.
 */
export function sharedByTwo(records: readonly Judged[], pairs: (key: string) => boolean): Shared[] {
  // Values by number, so that a pair is a number as well: there are many of them.
  const places = new Map<string, number>()
  const known: { value: Value; records: number }[] = []
  const all = records.map(({ fits, values }) => ({
    fits,
    own: valuesOf(values)
      .filter(({ key }) => pairs(key))
      .map((value) => {
        const name = nameOf(value)
        let place = places.get(name)
        if (place === undefined) {
          places.set(name, (place = known.length))
          known.push({ value, records: 0 })
        }
        known[place].records++
        return place
      })
      .sort((one, other) => one - other),
  }))
  const found = new Map<number, { fit: number; unfit: number }>()
  for (const { fits, own } of all)
    own.forEach((first, i) => {
      for (let j = i + 1; j < own.length; j++) {
        const name = first * known.length + own[j]
        let pair = found.get(name)
        if (!pair) found.set(name, (pair = { fit: 0, unfit: 0 }))
        if (fits) pair.fit++
        else pair.unfit++
      }
    })
  const told: Shared[] = []
  for (const [name, pair] of found) {
    const [one, other] = [known[Math.floor(name / known.length)], known[name % known.length]]
    const both = pair.fit + pair.unfit
    if (both >= LEAST && both < one.records && both < other.records) told.push({ ...one.value, and: other.value, ...pair })
  }
  return told
}

/** The values of a record, each once. */
const valuesOf = (values: Judged['values']): Value[] =>
  [...values].flatMap(([key, labels]) => [...new Set(labels)].map((label) => ({ key, label })))
