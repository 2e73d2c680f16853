import type { Having } from '@/engine/protocol'
import { settings } from '@/runtime/settings'
import { localDate } from '@/core/calendar/local-day'
import { subjectOf } from '@/core/lists/line'
import type { ListView } from '@/core/lists/view'
import { db } from '@/db/connection'
import { now } from '@/runtime/clock'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { answerFor } from '@/usecases/lists/list-account'
import { listFor } from '@/usecases/lists/open-list'
import { receiveFile } from './receive-file'
import { countText } from '@/core/text/written'
import { updateListOf } from '@/db/intake/batch-rows'
import { ownersOf } from '@/db/directory/premises-rows'

/** More owners than this are not brought in at once. */
const MOST = 100_000

/**
 * Makes a batch of the people who own what is behind a tab or figure of a list of premises, each once with their own address, to be
 * looked at and matched like any file. Owners that are no individuals, or have no address of their own, are left out and counted. The
 * batch belongs to the list. Throws Refused where nobody is left.
 */
export async function ownersAsPeople(
  actor: Actor,
  id: number,
  of: { lines: unknown; view: ListView; having?: Having | null },
): Promise<{ batch: number; people: number; left: number }> {
  mustCoordinate(actor, 'Importing owners')
  const list = await listFor(actor, id, 'use')
  const { lines, answer } = await answerFor(actor, of, MOST + 1)
  if (subjectOf(lines) !== 'premises') throw new Refused('Only premises have owners.')
  if (answer.ids.length > MOST)
    throw new Refused(`Owners of at most ${countText(MOST)} premises are imported at once. Nothing was imported. Narrow the list first.`)
  const rows: {
    owner: string | null
    owner_kind: string | null
    street: string | null
    town: string | null
    county: string | null
    postcode: string | null
  }[] = await ownersOf(db(), answer.ids)
  const people = new Map<string, Record<string, string>>()
  let left = 0
  for (const { owner, owner_kind: kind, street, town, county, postcode } of rows) {
    if (!owner || (kind !== null && kind !== 'individual') || !street || !(town ?? postcode)) left++
    else
      people.set(JSON.stringify([owner, street, town, postcode]), {
        Name: owner,
        Street: street,
        Town: town ?? '',
        County: county ?? '',
        Postcode: postcode ?? '',
      })
  }
  if (people.size === 0) throw new Refused('None of these premises has an owner who is a person with an address. Nothing was imported.')
  const bytes = Buffer.from([...people.values()].map((row) => JSON.stringify(row)).join('\n'))
  const batch = await receiveFile(actor, {
    name: `Owners ${localDate(now().getTime(), settings().ARCH_ZONE)}.jsonl`,
    bytes,
    kind: 'people',
  })
  await updateListOf(db(), batch, list.id)
  return { batch, people: people.size, left }
}
