import { type BatchKind, type FieldRules, type Mapping, RULED } from './columns'
import type { Shaping } from './shaping'

/** How the columns of a file are read: what each holds, once they are cut, joined and reworded. */
export interface HowMapped {
  kind: BatchKind
  mapping: Mapping
  shaping?: Shaping
}

/** A text that two ways to bring a file in have in common only where they are the same: a trial of one tells nothing of another. */
export function trialOf({ kind, mapping, shaping }: HowMapped, { rules = {}, byKeysAlone = false }: { rules?: FieldRules; byKeysAlone?: boolean }): string {
  return JSON.stringify([kind, mapping, shaping?.made ?? [], shaping?.words ?? {}, kind === 'people' ? RULED.filter((field) => rules[field]) : [], byKeysAlone])
}
