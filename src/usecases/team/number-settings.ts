import { db } from '@/db/connection'
import { type Actor, mustCoordinate, Refused } from './actor'
import { type NumberName, NUMBERS, writeSetting } from '@/db/team/settings'

/** Sets a number for the team. Refuses one that is out of its range. */
export async function setNumber(actor: Actor, name: NumberName, value: number): Promise<void> {
  const { least, most, what, wrong } = NUMBERS[name]
  mustCoordinate(actor, what)
  if (!Number.isInteger(value) || value < least || value > most) throw new Refused(wrong)
  await writeSetting(db(), name, value)
}
