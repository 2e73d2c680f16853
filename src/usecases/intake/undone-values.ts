import type { Change } from '@/db/intake/undo-rows'

/** The value a field had before a change, as if those before it that are reversed had never been. */
export function valueUnder(changes: readonly Change[], change: Change): string | null {
  let { before } = change
  for (const earlier of changes.filter((c) => c.field === change.field && c.id < change.id).reverse()) {
    if (!earlier.reversed) break
    before = earlier.before
  }
  return before
}
