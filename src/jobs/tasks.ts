import type { TaskList } from 'graphile-worker'
import { db } from '@/db/connection'
import type { SessionLocks } from '@/db/work/session-locks'
import { log } from '@/runtime/log'
import { jobKey } from '@/usecases/work/enqueue'
import { runSearch } from '@/usecases/directory/find-duplicates'
import { runBatch } from '@/usecases/intake/run-batch'
import { askFeeds } from '@/usecases/changes/ask-feeds'
import { runFeed } from '@/usecases/changes/run-feed'
import { sendDigests } from '@/usecases/team/send-digests'
import { runMail } from '@/usecases/rounds/run-mail'
import { runComparison } from '@/usecases/screening/run-comparison'
import { runEnquiry } from '@/usecases/sources/run-enquiry'
import type { Jobs } from '@/db/work/enqueue'
import { runTrial } from '@/usecases/intake/run-trial'
import { runUndo } from '@/usecases/intake/run-undo'

/** What each job does with what it is given. */
const WORK: { [J in keyof Jobs]: (given: Jobs[J]) => Promise<void> } = {
  'run-batch': ({ batch }) => runBatch(batch, (done, total) => log.debug({ batch, done, total }, 'batch goes on')),
  'try-batch': ({ batch }) => runTrial(batch),
  'undo-batch': ({ batch }) => runUndo(batch),
  'find-doubles': ({ search }) => runSearch(search),
  'run-enquiry': ({ enquiry }) => runEnquiry(enquiry),
  'compare-suppressions': ({ comparison }) => runComparison(comparison),
  'read-feed': ({ feed }) => runFeed(feed),
  'send-mail': ({ run }) => runMail(run),
}

/**
 * Every job by its name. One that throws is tried again by the queue, from where its data says it got to. One about the same
 * thing waits for the one that runs, in whichever process: there is one runner a job.
 */
export function taskList(locks: SessionLocks): TaskList {
  const task =
    <J extends keyof Jobs>(job: J) =>
    async (payload: unknown) => {
      const given = payload as Jobs[J]
      const key = jobKey(job, given)
      await locks.during(`job ${key}`, () => WORK[job](given))
      log.info({ job: key }, 'a job is done')
    }
  return {
    ...Object.fromEntries((Object.keys(WORK) as (keyof Jobs)[]).map((job) => [job, task(job)])),
    'read-feeds': async () => askFeeds(),
    'send-digests': async () => {
      const sent = await sendDigests()
      if (sent > 0) log.info({ sent }, 'digests were sent')
    },
    'prune-change-log': async () => {
      await db().raw('select prune_change_log()')
    },
  }
}
