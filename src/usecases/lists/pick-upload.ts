import { type Who, whoRow } from '@/core/clean/contact-row'
import { guessMapping } from '@/core/match/columns'
import type { Uploaded } from '@/core/views/list-views'
import { db } from '@/db/connection'
import { lookOutside, rowsOutside } from '@/formats/outside'
import { settings } from '@/runtime/settings'
import { type Actor, Refused } from '@/usecases/team/actor'
import { withIncoming } from '@/usecases/intake/batch-file'
import { MOST_PICKED, pickSet } from './list-in-hand'
import { listFor } from './open-list'
import { refusing } from '@/usecases/intake/receive-file'
import { peopleMeant, peopleNamed } from '@/usecases/intake/run-contacts'
import { countText } from '@/core/text/written'

const BLOCK = 1000
/** So many of the rows that found nobody are named. */
const MOST_TOLD = 5

/**
 * The people of the directory whom the rows of a file name, by record number, outside id, email, phone or full name, as a set
 * for a pick line. Nothing of the file is stored or changes anything. Throws Refused where it cannot be read, or is about
 * nobody here.
 */
export async function pickUpload(
  actor: Actor,
  listId: number,
  file: { name: string; bytes: AsyncIterable<Uint8Array> },
): Promise<Uploaded> {
  const list = await listFor(actor, listId)
  if (list.subject !== 'person') throw new Refused('Only a list of people can be filled from a file of people.')
  return withIncoming(file.bytes, async (path) => {
    const shape = await refusing(() => lookOutside(path))
    const mapping = guessMapping('people', shape.header, shape.first)
    if (!mapping.some((field) => field && WHO.includes(field)))
      throw new Refused(
        `No column of ${file.name} says who: none is a record number, an id, an email, a phone or a name. Nothing was changed.`,
      )
    const found = new Set<number>()
    const told = { rows: 0, nobody: { count: 0, some: [] as string[] }, several: 0, unclear: 0 }
    const settle = async (rows: { raw: string[]; who: Who }[]) => {
      const people = await peopleNamed(
        db(),
        rows.map(({ who }) => who),
      )
      for (const { raw, who } of rows) {
        const meant = peopleMeant(who, people)
        if (meant.length === 1) found.add(meant[0].id)
        else if (meant.length > 1) told.several++
        else if (++told.nobody.count <= MOST_TOLD)
          told.nobody.some.push(
            raw
              .filter((cell) => cell.trim() !== '')
              .slice(0, 3)
              .join(', ')
              .slice(0, 80),
          )
      }
      if (found.size > MOST_PICKED)
        throw new Refused(
          `More than ${countText(MOST_PICKED)} people cannot be picked at once. Bring the file in, and ask for its batch with a line.`,
        )
    }
    let block: { raw: string[]; who: Who }[] = []
    await refusing(async () => {
      for await (const raw of rowsOutside(path, shape.reading, shape.header)) {
        told.rows++
        const who = whoRow(raw, mapping, settings().ARCH_REGION)
        if ('refused' in who) told.unclear++
        else if (block.push({ raw, who }) === BLOCK) {
          await settle(block)
          block = []
        }
      }
    })
    await settle(block)
    if (found.size === 0)
      throw new Refused(
        `None of the ${countText(told.rows)} rows of ${file.name} is about one person of the directory: ${countText(told.nobody.count)} about nobody, ${countText(told.several)} that could be about several, ${countText(told.unclear)} that could not be read. Nothing was changed.`,
      )
    return { ...(await pickSet(actor, listId, [...found])), ...told }
  })
}

const WHO = ['record', 'outsideId', 'name', 'given', 'family', 'email', 'email2', 'phone', 'phone2']
