import { randomInt } from 'node:crypto'
import { blinded, blindedAgain, comparedText, digestOf, MOST, newSecret, readFile, sharedPlaces, writeFile } from '@/core/screening/blinded'
import { countText } from '@/core/text/written'
import { db } from '@/db/connection'
import { addressesToCompare, comparisonFile, comparisonRow, failComparison, updateComparison } from '@/db/screening/comparison-rows'
import { tellWork } from '@/db/team/news'
import { now } from '@/runtime/clock'

/**
 * Works out whatever of a comparison can be worked out by now: our offer; our answer to theirs; what is shared. Each is written once, so that
 * a run that broke off, or one beside it, changes nothing that was sent. The secret goes when it is over.
 */
export async function runComparison(id: number): Promise<void> {
  // One that was ended meanwhile has no row.
  if (!(await comparisonRow(db(), id))) return
  await makeOffer(id)
  await makeAnswer(id)
  await compare(id)
}

async function makeOffer(id: number): Promise<void> {
  if ((await comparisonFile(db(), id, 'offer')) !== null) return
  const all = shuffled(await addressesToCompare(db(), now()))
  if (all.length > MOST) {
    await failComparison(
      db(),
      id,
      `There are ${countText(all.length)} addresses and numbers to compare; at most ${countText(MOST)} can be.`,
    )
    return
  }
  const secret = await newSecret()
  const elements = await blinded(
    all.map(({ channel, value }) => comparedText(channel, value)),
    secret,
  )
  await updateComparison(db(), id, 'offer', {
    offer: Buffer.from(await writeFile({ part: 'offer', elements })),
    ours: elements.length,
    secret: Buffer.from(secret),
    addresses: all.map((own) => own.id),
  })
}

async function makeAnswer(id: number): Promise<void> {
  const row = await comparisonRow(db(), id)
  const theirs = await comparisonFile(db(), id, 'their_offer')
  if (!row?.secret || theirs === null || (await comparisonFile(db(), id, 'answer')) !== null) return
  const { elements } = await readFile(theirs)
  const answer = Buffer.from(
    await writeFile({ part: 'answer', of: await digestOf(elements), elements: await blindedAgain(elements, row.secret) }),
  )
  await updateComparison(db(), id, 'answer', { answer })
}

async function compare(id: number): Promise<void> {
  const row = await comparisonRow(db(), id)
  const [ours, back] = [await comparisonFile(db(), id, 'answer'), await comparisonFile(db(), id, 'their_answer')]
  if (!row?.addresses || row.done_at !== null || ours === null || back === null) return
  const { addresses } = row
  const places = await sharedPlaces((await readFile(back)).elements, (await readFile(ours)).elements)
  await db().transaction(async (trx) => {
    const shared = places.map((place) => addresses[place])
    // What was sent stays until it is deleted, as they may still lack our answer; what could undo the blinding does not.
    const done = await updateComparison(trx, id, 'shared', { shared, done_at: now(), secret: null, addresses: null, their_answer: null })
    if (done > 0)
      await tellWork(
        trx,
        row.actor_id,
        `Compared with ${row.name}: ${countText(shared.length)} ${shared.length === 1 ? 'is' : 'are'} shared.`,
        '/screening/compare',
      )
  })
}

/** In a random order, so that the places of what is sent tell nothing (Fisher and Yates). */
function shuffled<T>(all: T[]): T[] {
  const mixed = [...all]
  for (let i = mixed.length - 1; i > 0; i--) {
    const j = randomInt(i + 1)
    ;[mixed[i], mixed[j]] = [mixed[j], mixed[i]]
  }
  return mixed
}
