import { log } from '@/runtime/log'
import { Refused } from '@/usecases/team/actor'

/** What a release rests on changed while it was under way; it is begun anew. */
export class Overtaken extends Error {}

/** So often a release begins anew where something changed beneath it. */
const ATTEMPTS = 3

/** Releases a round, anew where something changed beneath it. Throws Refused where that happens again and again; `looked` is what to look at then. */
export async function unlessOvertaken(round: number, looked: string, release: () => Promise<void>): Promise<void> {
  for (let attempt = 1; ; attempt++) {
    try {
      return await release()
    } catch (error) {
      if (!(error instanceof Overtaken)) throw error
      log.info({ round, attempt, why: error.message }, 'a release begins anew')
      if (attempt === ATTEMPTS)
        throw new Refused(`${error.message} Nothing was released. Look at the ${looked} once more, then release the round.`)
    }
  }
}
