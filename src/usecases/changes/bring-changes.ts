import { placeByChanges } from '@/usecases/lists/place-by-changes'
import { readDueChanges } from './read-changes'
import { tellChanges } from './tell-changes'

/**
 * Reads what changed in the ledger, finds which lists each change concerns, and puts records on the lists that ask for it. Returns how many
 * changes were told of.
 */
export async function bringChanges(): Promise<number> {
  await readDueChanges()
  const told = await tellChanges()
  await placeByChanges()
  return told
}
