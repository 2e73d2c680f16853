import type { BatchTrial } from '@/core/views/intake-views'
import { db } from '@/db/connection'
import { mailRun, moveMailRun } from '@/db/rounds/mail-rows'
import { log } from '@/runtime/log'
import { failComparison } from '@/db/screening/comparison-rows'
import { tellWork } from '@/db/team/news'
import type { Jobs } from '@/db/work/enqueue'
import { failBatch, failEnquiry, failSearch, failTrial, failUndo, trialOf, TRIED } from '@/db/work/failed'

/**
 * Marks work as failed whose job has used up its tries, says why where it is looked at, and tells whoever began it. What it did
 * until then is kept, and it can be begun again. Work that has ended otherwise is left as it is.
 */
export async function workFailed(job: keyof Jobs, number: number): Promise<void> {
  log.warn({ job, number }, 'work has used up its tries')
  await FAILED[job](number)
}

const FAILED: Record<keyof Jobs, (number: number) => Promise<void>> = {
  // What a feed said last stands with it, and it is read again at its next turn.
  'read-feed': async () => {},
  'run-batch': (id) =>
    db().transaction(async (trx) => {
      const [batch] = await failBatch(
        trx,
        `The file is not all in. ${TRIED} The rows that are in are kept. Start it again, or undo it.`,
        id,
      )
      if (batch) await tellWork(trx, batch.actor_id, `${batch.file_name} failed. The rows that are in are kept.`, `/intake/${id}`)
    }),
  'undo-batch': (id) =>
    db().transaction(async (trx) => {
      const [batch] = await failUndo(
        trx,
        `Undoing did not come to its end. ${TRIED} What is undone is kept so. Undo it again to go on.`,
        id,
      )
      if (batch) await tellWork(trx, batch.undone_by, `Undoing ${batch.file_name} failed.`, `/intake/${id}`)
    }),
  'try-batch': async (id) => {
    const { trial } = (await trialOf(db(), id)) ?? {}
    if ((trial as BatchTrial | null)?.state !== 'running') return
    await failTrial(db(), `The rows could not be tried. ${TRIED} Nothing was changed.`, id, trial)
  },
  'run-enquiry': (id) =>
    db().transaction(async (trx) => {
      const [enquiry] = await failEnquiry(trx, `${TRIED} What came is kept, and it can go on from there.`, id)
      if (enquiry) await tellWork(trx, enquiry.actor_id, `${enquiry.name} failed. What came is kept.`, `/intake/enquiries/${id}`)
    }),
  'compare-suppressions': (id) =>
    db().transaction(async (trx) => {
      const [comparison] = await failComparison(trx, id, `${TRIED} Begin a new comparison.`)
      if (comparison) await tellWork(trx, comparison.actor_id, `The comparison with ${comparison.name} failed.`, '/screening/compare')
    }),
  'send-mail': (id) =>
    db().transaction(async (trx) => {
      const run = await mailRun(trx, id, true)
      const note = `${TRIED} What left is recorded, and the others wait.`
      if (run && (await moveMailRun(trx, id, ['running'], 'failed', note)) > 0)
        await tellWork(trx, run.begun_by, 'Sending the emails failed. What left is recorded.', `/rounds/${run.round_id}/letter`)
    }),
  'find-doubles': (id) =>
    db().transaction(async (trx) => {
      const [search] = await failSearch(trx, `${TRIED} What earlier searches found is kept.`, id)
      if (search) await tellWork(trx, search.actor_id, 'The search for duplicates failed.', '/directory/doubles')
    }),
}
