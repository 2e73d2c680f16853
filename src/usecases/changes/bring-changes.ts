import { readDueChanges } from './read-changes'
import { tellChanges } from './tell-changes'

/** Reads what changed in the ledger, then finds which lists each change concerns. Returns how many changes were told of. */
export async function bringChanges(): Promise<number> {
  await readDueChanges()
  return tellChanges()
}
