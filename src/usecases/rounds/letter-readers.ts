import { localDate } from '@/core/calendar/local-day'
import { db } from '@/db/connection'
import type { ListRow } from '@/db/lists/list-rows'
import { frozenReaders, type LetterReader, readersNow } from '@/db/rounds/letter-rows'
import { theseIds } from '@/db/rounds/opener-rows'
import type { RoundRow } from '@/db/rounds/round-rows'
import { openersFor } from './openers'
import { basisOf } from './round-basis'
import { askScreening } from './screen-round'

/** As many as a round can have. */
const EVERYBODY = 5_000_000

/** Who gets the emails of a round: those it froze, or, while it is being built, those who are clear by email now. */
export async function letterReaders(round: RoundRow, list: ListRow): Promise<LetterReader[]> {
  if (round.released_at) return frozenReaders(db(), round.id)
  const basis = await basisOf(db(), round.id, list.id)
  const { answer, moment } = await askScreening(list, basis, { tab: 'channel', channel: 'email' }, { offset: 0, limit: EVERYBODY })
  const openers = await openersFor(db(), list.id, theseIds(answer.ids), localDate(moment.asOf, list.zone))
  return readersNow(db(), answer.ids, new Map([...openers].map(([person, { text }]) => [person, text])))
}
