import type { SessionLocks } from '@/db/work/session-locks'
import { log } from '@/runtime/log'
import { bringChanges } from '@/usecases/changes/bring-changes'

/** Milliseconds from one look for new changes to the next, and after a look that failed. */
const PACE = 1000
const LATER = 5000

/**
 * Looks for new changes over and over: whatever writes to the ledger leaves a mark, in its own transaction, that its record must be
 * read. One worker looks at a time, in whichever process. Returns what ends it.
 */
export function watchChanges(locks: SessionLocks): () => void {
  let timer: NodeJS.Timeout | undefined
  let ended = false
  const look = async () => {
    let wait = PACE
    try {
      const told = await locks.during('job changes', bringChanges)
      if (told > 0) log.debug({ told }, 'changes were told')
    } catch (error) {
      log.warn({ message: (error as Error).message }, 'changes could not be read; they are tried again')
      wait = LATER
    }
    if (!ended) timer = setTimeout(look, wait)
  }
  void look()
  return () => {
    ended = true
    clearTimeout(timer)
  }
}
