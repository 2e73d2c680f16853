import { SourceTrouble } from '@/sources/http-source'
import { Refused } from '@/usecases/team/actor'

/** Asks a source while somebody waits; where it does not answer they are told, and nothing is begun. */
export async function answering<T>(ask: () => Promise<T>): Promise<T> {
  try {
    return await ask()
  } catch (error) {
    throw error instanceof SourceTrouble ? new Refused(`${error.message} Nothing was begun; try again in a while.`) : error
  }
}
