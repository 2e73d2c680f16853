import type { Of } from '@/core/sources/enquiry'
import { db } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { batchFor } from '@/usecases/intake/batch-for'
import { answerFor } from '@/usecases/lists/list-account'
import { listFor } from '@/usecases/lists/open-list'
import { latestEdition } from '@/db/lists/list-rows'
import { peopleOfBatch } from '@/db/intake/batch-rows'

/** More people than any directory holds. */
const ALL = 100_000_000

/** What is asked about, by the name it really has, and the list it belongs to. Throws Refused where this person may not use it. */
export async function askedAbout(actor: Actor, of: Of): Promise<{ of: Of; list: number | null }> {
  if ('list' in of) {
    const { id, name } = await listFor(actor, of.list, 'use')
    return { of: { list: id, name }, list: id }
  }
  const { id, file_name: name, list_id: list } = await batchFor(actor, 'batch' in of ? of.batch : of.file)
  return { of: 'batch' in of ? { batch: id, name } : { file: id, name }, list }
}

/** Everybody on a list as its latest edition has it, or whom a batch brought in or met. */
export async function peopleOf(actor: Actor, of: Of): Promise<number[]> {
  if ('list' in of) {
    const list = await listFor(actor, of.list, 'use')
    const { lines } = await latestEdition(list.id)
    return (await answerFor(actor, { lines, view: { tab: 'on' } }, ALL)).answer.ids
  }
  if (!('batch' in of)) throw new Refused('This file is not imported yet, so it has no people. Import it first.')
  const rows = await peopleOfBatch(db(), of.batch)
  return rows.map((row) => row.id)
}
