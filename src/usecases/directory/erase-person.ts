import { CHANNELS } from '@/core/records/channels'
import { db } from '@/db/connection'
import { type Erased, eraseRows } from '@/db/directory/erase'
import { lockPerson } from '@/db/directory/person-rows'
import { writeEntries } from '@/db/ledger'
import { passGate } from '@/db/locks'
import { writeSuppressions } from '@/usecases/screening/suppress-people'
import { type Actor, Refused } from '@/usecases/team/actor'

/**
 * Erases what is known of a person, on their request: their record and what was merged into it, rows and files they came in with,
 * files of rounds they were in, words of the ledger. A suppression of their addresses and numbers stays as keys that tell nothing, so
 * that they are caught when they come in again; counts of past rounds stay; an entry says who erased them and when. It cannot be undone.
 */
export async function erasePerson(actor: Actor, person: number): Promise<Erased> {
  if (actor.post !== 'manager') throw new Refused('Erasing a person is for managers.', 'not allowed')
  return db().transaction(async (trx) => {
    const at = await passGate(trx)
    const row = Number.isSafeInteger(person) ? await lockPerson(trx, person) : undefined
    if (!row || row.state === 'erased') throw new Refused('There is no such person in the directory.', 'not found')
    if (row.state === 'merged') throw new Refused('This record was merged into another. Erase that one: this one goes with it.')
    await writeSuppressions(trx, [
      { of: { person }, reason: 'opt-out', channels: [...CHANNELS], since: at, until: null, word: 'erased', actor: actor.id },
    ])
    const erased = await eraseRows(trx, person)
    await writeEntries(trx, [{ person, kind: 'erased', at, actor: actor.id }], at)
    return erased
  })
}
