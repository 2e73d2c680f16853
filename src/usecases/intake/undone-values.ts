/** A change of the ledger, and whether the batch that is being undone made it, and whether it was taken back already. */
export interface Change {
  id: number
  field: string
  before: string | null
  after: string | null
  mine: boolean
  reversed: boolean
}

/** The value a field had before a change, as if those before it that are reversed had never been. */
export function valueUnder(changes: readonly Change[], change: Change): string | null {
  let { before } = change
  for (const earlier of changes.filter((c) => c.field === change.field && c.id < change.id).reverse()) {
    if (!earlier.reversed) break
    before = earlier.before
  }
  return before
}
