import { type ComparisonFile, digestOf, readFile } from '@/core/screening/blinded'
import { db } from '@/db/connection'
import { comparisonFile, updateComparison } from '@/db/screening/comparison-rows'
import { enqueue } from '@/db/work/enqueue'
import { countText } from '@/core/text/written'
import { type Actor, Refused } from '@/usecases/team/actor'
import { comparisonFor, mustCompare } from './comparisons'

/** A file of 100,000 elements is less than half of this. */
const MOST_BYTES = 20_000_000

/**
 * Takes a file the other organisation sent: its offer, or its answer to ours. It is looked through before anything is kept; a file that is
 * neither, was taken already, is our own, or answers another offer is refused. What follows from it is worked out by a job.
 */
export async function takeTheirFile(actor: Actor, id: number, pieces: AsyncIterable<Uint8Array>): Promise<'offer' | 'answer'> {
  mustCompare(actor)
  const { name } = await comparisonFor(db(), id)
  const bytes = await whole(pieces)
  const file = await read(bytes)
  const own = await comparisonFile(db(), id, 'offer')
  if (own === null) throw new Refused('Your own offer is not made yet. Try again in a moment.')
  const ours = await read(own)
  if (file.part === 'offer' && (await digestOf(file.elements)) === (await digestOf(ours.elements)))
    throw new Refused(`This is your own offer. Send it to ${name}, and bring in the one they send.`)
  if (file.part === 'answer') {
    if (file.of !== (await digestOf(ours.elements)))
      throw new Refused('This answers another offer than yours in this comparison. Nothing was kept.')
    if (file.elements.length !== ours.elements.length)
      throw new Refused(
        `The answer holds ${countText(file.elements.length)} elements and your offer ${countText(ours.elements.length)}. Nothing was kept.`,
      )
  }
  await db().transaction(async (trx) => {
    await comparisonFor(trx, id, true)
    const values = file.part === 'offer' ? { their_offer: bytes, theirs: file.elements.length } : { their_answer: bytes }
    const taken = await updateComparison(trx, id, file.part === 'offer' ? 'their_offer' : 'their_answer', values)
    if (taken === 0) throw new Refused(`Their ${file.part} is in already. Begin a new comparison for another.`)
    await enqueue(trx, 'compare-suppressions', { comparison: id })
  })
  return file.part
}

async function read(bytes: Uint8Array): Promise<ComparisonFile> {
  try {
    return await readFile(bytes)
  } catch (error) {
    throw new Refused(`The file cannot be used: ${(error as Error).message}. Nothing was kept.`)
  }
}

async function whole(pieces: AsyncIterable<Uint8Array>): Promise<Buffer> {
  const all: Uint8Array[] = []
  let size = 0
  for await (const piece of pieces) {
    size += piece.length
    if (size > MOST_BYTES) throw new Refused('The file is larger than any file of a comparison. Nothing was kept.')
    all.push(piece)
  }
  return Buffer.concat(all)
}
