import { db } from '@/db/connection'
import { writeEntries } from '@/db/ledger'
import { now } from '@/runtime/clock'
import { type Actor, Refused } from '@/usecases/team/actor'
import { livePerson } from '@/db/directory/person-rows'

/** Writes a note into the ledger of a person. */
export async function addNote(actor: Actor, person: number, text: string): Promise<void> {
  const note = text.trim()
  if (note === '' || note.length > 2000) throw new Refused('A note holds 1 to 2,000 characters.')
  await db().transaction(async (trx) => {
    const known = await livePerson(trx, person)
    if (!known) throw new Refused('There is no such person in the directory.', 'not found')
    await writeEntries(trx, [{ person, kind: 'note', at: now(), actor: actor.id, note }], now())
  })
}
