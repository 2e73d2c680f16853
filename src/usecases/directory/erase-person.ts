import { CHANNELS } from '@/core/records/channels'
import { db } from '@/db/connection'
import { type Erased, eraseRows, packedUploads, wordsOf } from '@/db/directory/erase'
import { lockPerson } from '@/db/directory/person-rows'
import { writeEntries } from '@/db/ledger'
import { passGate } from '@/db/locks'
import { writeSuppressions } from '@/usecases/screening/suppress-people'
import { withFileOf } from '@/db/intake/batch-file'
import { rowsOutside } from '@/formats/outside'
import { log } from '@/runtime/log'
import { type Actor, Refused } from '@/usecases/team/actor'

/** So often files that came meanwhile are read before it is given up. */
const ATTEMPTS = 3

/** Uploads that were looked through, and those of them that name the person. */
interface LookedThrough {
  looked: ReadonlySet<number>
  naming: number[]
}

/**
 * Erases what is known of a person, on their request: their record and what was merged into it, rows and files they came in with,
 * files of rounds they were in, words of the ledger. A suppression of their addresses and numbers stays as keys that tell nothing, so
 * that they are caught when they come in again; counts of past rounds stay; an entry says who erased them and when. It cannot be undone.
 */
export async function erasePerson(actor: Actor, person: number): Promise<Erased> {
  if (actor.post !== 'manager') throw new Refused('Erasing a person is for managers.', 'not allowed')
  for (let attempt = 1; ; attempt++) {
    // Reading a file is a process of its own, so it is done before the transaction.
    const uploads = await packedUploadsNaming(person)
    const erased = await eraseIn(actor, person, uploads)
    if (erased) return erased
    if (attempt === ATTEMPTS)
      throw new Refused('Files were uploaded meanwhile and must be read first. Nobody was erased. Try again in a minute.')
  }
}

/** Erases somebody, unless an upload came that was not looked through; then nothing is changed, and null is given. */
async function eraseIn(actor: Actor, person: number, { looked, naming }: LookedThrough): Promise<Erased | null> {
  return db().transaction(async (trx) => {
    const at = await passGate(trx)
    const row = Number.isSafeInteger(person) ? await lockPerson(trx, person) : undefined
    if (!row || row.state === 'erased') throw new Refused('There is no such person in the directory.', 'not found')
    if ((await packedUploads(trx)).some(({ id }) => !looked.has(id))) return null
    if (row.state === 'merged') throw new Refused('This record was merged into another. Erase that one: this one goes with it.')
    await writeSuppressions(trx, [
      { of: { person }, reason: 'opt-out', channels: [...CHANNELS], since: at, until: null, word: 'erased', actor: actor.id },
    ])
    const erased = await eraseRows(trx, person, naming)
    await writeEntries(trx, [{ person, kind: 'erased', at, actor: actor.id }], at)
    return erased
  })
}

/** Workbooks and archives that wait to be imported and name a person in any of their rows; one that cannot be read is left to its importing. */
async function packedUploadsNaming(person: number): Promise<LookedThrough> {
  if (!Number.isSafeInteger(person)) return { looked: new Set(), naming: [] }
  const waiting = await packedUploads(db())
  const words = (await wordsOf(db(), person)).map((word) => word.toLowerCase())
  const naming: number[] = []
  for (const { id, reading, header } of waiting) {
    const names = await withFileOf(id, async (path) => {
      for await (const row of rowsOutside(path, reading, header)) {
        const text = row.join('\n').toLowerCase()
        if (words.some((word) => text.includes(word))) return true
      }
      return false
    }).catch((error) => {
      log.warn({ batch: id, message: (error as Error).message }, 'an upload that waits could not be looked through')
      return false
    })
    if (names) naming.push(id)
  }
  return { looked: new Set(waiting.map(({ id }) => id)), naming }
}
