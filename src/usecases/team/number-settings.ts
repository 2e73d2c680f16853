import { db } from '@/db/connection'
import { type Actor, mustCoordinate, Refused } from './actor'
import { type NumberName, NUMBERS } from '@/db/team/settings'

export async function setNumber(actor: Actor, name: NumberName, value: number): Promise<void> {
  const { least, most, what, wrong } = NUMBERS[name]
  mustCoordinate(actor, what)
  if (!Number.isInteger(value) || value < least || value > most) throw new Refused(wrong)
  await db()('setting')
    .insert({ name, value: String(value) })
    .onConflict('name')
    .merge()
}
