import { adjusted } from './adjust'
import { fisherUpper } from './fisher'

/** What somebody said of a record of a sample. */
export const VERDICTS = ['fits', 'does not', 'cannot tell'] as const
export type Verdict = (typeof VERDICTS)[number]

/** Why a record does not belong. */
export const UNFIT_REASONS = ['role', 'organisation', 'level', 'place', 'known to us', 'other'] as const
export type UnfitReason = (typeof UNFIT_REASONS)[number]

/** How many of the records that were judged have one value, of those that fit and of those that do not. */
export interface Shared {
  key: string
  label: string
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

/**
 * Values that stand out among the records that do not belong, the clearest first. Each is tested against chance, and adjusted for all
 * values that were tried, those that only one record has among them.
 */
export function patterns(values: readonly Shared[], judged: { fit: number; unfit: number }): Pattern[] {
  const all = judged.fit + judged.unfit
  const chances = values.map(({ fit, unfit }) => fisherUpper({ both: unfit, marked: fit + unfit, group: judged.unfit, all }))
  const after = adjusted(chances)
  return values
    .map((own, i): Pattern => ({ ...own, chance: chances[i], adjusted: after[i] }))
    .filter((own) => own.unfit >= LEAST && own.adjusted <= MOST_BY_CHANCE)
    .sort((a, b) => a.chance - b.chance || b.unfit - a.unfit || (a.key + a.label < b.key + b.label ? -1 : 1))
}

/** Counts of each value among records, each with the values it has by key: a key may have several. */
export function shared(records: readonly { fits: boolean; values: ReadonlyMap<string, readonly string[]> }[]): Shared[] {
  const found = new Map<string, Shared>()
  for (const { fits, values } of records)
    for (const [key, labels] of values)
      for (const label of new Set(labels)) {
        const own = found.get(`${key}\0${label}`) ?? { key, label, fit: 0, unfit: 0 }
        if (fits) own.fit++
        else own.unfit++
        found.set(`${key}\0${label}`, own)
      }
  return [...found.values()]
}
