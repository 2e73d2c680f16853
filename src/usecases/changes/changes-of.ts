import { localDate } from '@/core/calendar/local-day'
import type { Subject } from '@/core/records/subject'
import type { RecordChanges } from '@/core/views/change-views'
import { changesOfRecord } from '@/db/changes/change-rows'
import { isFollowed } from '@/db/changes/follow-rows'
import { db } from '@/db/connection'
import { now } from '@/runtime/clock'
import { settings } from '@/runtime/settings'
import { tasksAbout } from '@/db/team/task-rows'
import { taskView } from '@/usecases/team/tasks'
import { team } from '@/usecases/team/team'
import type { Actor } from '@/usecases/team/actor'
import { changeKinds } from './change-kinds'
import { changeRows } from './changes-page'

const MOST = 50

/** The changes of one record, the latest first, whatever became of them, and whether whoever asks follows it by itself. */
export async function changesOf(actor: Actor, of: Subject, id: number): Promise<RecordChanges> {
  const today = localDate(now().getTime(), settings().ARCH_ZONE)
  return {
    of,
    id,
    today,
    followed: await isFollowed(db(), actor.id, of, id),
    rows: await changeRows(db(), actor, await changesOfRecord(db(), of, id, MOST), today),
    tasks: (await tasksAbout(db(), actor.id, of, id)).map((row) => taskView(row, actor.id, today)),
    colleagues: await team(actor),
    me: actor.id,
    kinds: (await changeKinds(actor)).filter((kind) => kind.told).map(({ id, name }) => ({ id, name })),
  }
}
