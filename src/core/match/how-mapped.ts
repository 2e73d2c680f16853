import { type BatchKind, type FieldRules, type Mapping, RULED } from './columns'
import type { MadeColumn, Shaping } from './shaping'

/** How the columns of a file are read: what each holds, once they are cut, joined and reworded. */
export interface HowMapped {
  kind: BatchKind
  mapping: Mapping
  shaping?: Shaping
}

/** As a list, since what is kept as JSON comes back with its keys in another order. */
const inOrder = (column: MadeColumn): unknown[] =>
  column.is === 'part'
    ? [column.of, column.at, column.part, column.last]
    : column.is === 'joined'
      ? [column.of, column.with]
      : [column.value]

/** A text that two ways to bring a file in have in common only where they are the same: a trial of one tells nothing of another. */
export function trialOf(
  { kind, mapping, shaping }: HowMapped,
  { rules = {}, byKeysAlone = false }: { rules?: FieldRules; byKeysAlone?: boolean },
): string {
  return JSON.stringify([
    kind,
    mapping,
    (shaping?.made ?? []).map(inOrder),
    Object.entries(shaping?.words ?? {})
      .filter(([, pairs]) => pairs.length > 0)
      .sort(),
    kind === 'people' ? RULED.map((field) => rules[field] ?? '').join('|') : [],
    byKeysAlone,
  ])
}
