import type { TaskList } from 'graphile-worker'
import { db } from '@/db/connection'
import { log } from '@/runtime/log'
import type { Jobs } from '@/usecases/enqueue'
import { runSearch } from '@/usecases/find-doubles'
import { runBatch } from '@/usecases/run-batch'
import { runEnquiry } from '@/usecases/run-enquiry'
import { runTrial } from '@/usecases/try-batch'
import { runUndo } from '@/usecases/undo-batch'

/** Every job by its name. A job that throws is tried again by the queue, from where its data says it got to. */
export const taskList: TaskList = {
  'run-batch': async (payload) => {
    const { batch } = payload as Jobs['run-batch']
    await runBatch(batch, (done, total) => log.debug({ batch, done, total }, 'batch goes on'))
    log.info({ batch }, 'batch is done')
  },
  'try-batch': async (payload) => {
    const { batch } = payload as Jobs['try-batch']
    await runTrial(batch)
  },
  'undo-batch': async (payload) => {
    const { batch } = payload as Jobs['undo-batch']
    await runUndo(batch)
    log.info({ batch }, 'batch is undone')
  },
  'find-doubles': async (payload) => {
    const { search } = payload as Jobs['find-doubles']
    await runSearch(search)
    log.info({ search }, 'doubles were looked for')
  },
  'run-enquiry': async (payload) => {
    const { enquiry } = payload as Jobs['run-enquiry']
    await runEnquiry(enquiry)
    log.info({ enquiry }, 'enquiry is through')
  },
  'prune-change-log': async () => {
    await db().raw('select prune_change_log()')
  },
}
