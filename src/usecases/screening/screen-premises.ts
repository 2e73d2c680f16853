import { REASON_NAME } from '@/core/records/suppression'
import { heldPremises, PREMISES_RULE_NAME, premisesFigures, type ScreenedPremises } from '@/core/screening/premises'
import type { PremisesScreening } from '@/core/views/round-views'
import { db } from '@/db/connection'
import { latestEdition } from '@/db/lists/list-rows'
import { premisesToScreen } from '@/db/screening/premises-held'
import { askEngine } from '@/engine/client'
import { unpackIds } from '@/engine/packed-ids'
import { now } from '@/runtime/clock'
import { listFor } from '@/usecases/lists/open-list'
import { preparedLines } from '@/usecases/lists/list-account'
import { type Actor, Refused } from '@/usecases/team/actor'
import { sentenceCase } from './evidence'

const CHUNK = 5000
/** So many of those that are held back are named. */
const SHOWN = 100

/** Screens a saved list of premises for post: to how many a letter may go, and which are held back by which rule. */
export async function screenPremises(actor: Actor, id: number): Promise<PremisesScreening> {
  const list = await listFor(actor, id)
  if (list.subject !== 'premises')
    throw new Refused('Only a list of premises is screened for post by itself. Start a round of a list of people.')
  const { lines } = await latestEdition(id)
  const { packed } = await askEngine('members', await preparedLines(actor, lines))
  const ids = unpackIds(Buffer.from(packed, 'base64'))
  const at = now()
  const all: ScreenedPremises[] = []
  const held: PremisesScreening['held'] = []
  for (let i = 0; i < ids.length; i += CHUNK) {
    for (const own of await premisesToScreen(db(), ids.slice(i, i + CHUNK), at)) {
      all.push(own)
      const why = held.length < SHOWN ? heldPremises(own) : null
      if (why)
        held.push({
          id: own.id,
          name: own.name,
          rule: PREMISES_RULE_NAME[why.rule],
          why: why.reason === null ? null : sentenceCase(REASON_NAME[why.reason]),
        })
    }
  }
  return { figures: premisesFigures(all), held, at: at.toISOString() }
}
