import { db } from '@/db/connection'
import { deleteLayoutRow } from '@/db/rounds/layout-rows'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'

/** Removes a saved layout. Files that were taken by it stay as they are, and keep how they were laid out. */
export async function removeLayout(actor: Actor, id: number): Promise<void> {
  mustCoordinate(actor, 'Removing a layout')
  if ((await deleteLayoutRow(db(), id)) === 0) throw new Refused('There is no such layout.', 'not found')
}
