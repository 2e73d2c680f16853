import { readChanges } from '@/core/changes/read'
import type { Subject } from '@/core/records/subject'
import { db, type Knex } from '@/db/connection'
import {
  changesGone,
  insertChanges,
  kindsByKey,
  type NewChange,
  type StoredChange,
  storedChanges,
  updateChange,
} from '@/db/changes/change-rows'
import { anyDue, historiesOf, type SubjectHistory, takeDue, withWhoStays } from '@/db/changes/history-rows'
import { now } from '@/runtime/clock'
import { settings } from '@/runtime/settings'

/** So many marks are read in one transaction. */
const AT_ONCE = 1000

/**
 * Reads the changes of every record whose ledger moved since they were last read, some a transaction, so that it goes on wherever it
 * is stopped. What is read depends on the ledger alone; what became of a change stays with it. Returns how many records were read.
 */
export async function readDueChanges(): Promise<number> {
  let read = 0
  while (await anyDue(db())) {
    read += await db().transaction(async (trx) => {
      const due = await takeDue(trx, AT_ONCE)
      const people = await withWhoStays(trx, due.person)
      const kinds = await kindsByKey(trx)
      await readAnew(trx, 'person', people, kinds)
      await readAnew(trx, 'organisation', due.organisation, kinds)
      await readAnew(trx, 'premises', due.premises, kinds)
      return people.length + due.organisation.length + due.premises.length
    })
  }
  return read
}

async function readAnew(trx: Knex, of: Subject, ids: number[], kinds: Map<string, number>): Promise<void> {
  if (ids.length === 0) return
  // Locked first: of two that read the same record the second sees what the first wrote.
  const stored = new StoredChanges(await storedChanges(trx, of, ids))
  const histories = await historiesOf(trx, of, ids, settings().ARCH_ZONE)
  const fresh: NewChange[] = []
  for (const history of histories) {
    if (history.goneWhy !== null) continue
    for (const read of readChanges(history)) {
      const kind = typeof read.kind === 'number' ? read.kind : (kinds.get(read.kind) as number)
      const change: NewChange = { ...read, of, subject: history.id, kind }
      const same = stored.take(change)
      if (!same) fresh.push(change)
      else if (!asStored(change, same)) await updateChange(trx, same.id, change, isNews(change, same))
    }
  }
  const lost = new Map<string, number[]>()
  const byId = new Map(histories.map((history) => [history.id, history]))
  for (const change of stored.left()) {
    const why = whyGone(change, byId.get(change.subject))
    lost.set(why, [...(lost.get(why) ?? []), change.id])
  }
  for (const [why, changes] of lost) await changesGone(trx, changes, why, now())
  await insertChanges(trx, fresh)
}

/** Stored changes, found by the reports they share with one that was read: a merge moves them from one record to another. */
class StoredChanges {
  private readonly byReport = new Map<string, StoredChange[]>()
  private readonly taken = new Set<number>()

  constructor(private readonly all: readonly StoredChange[]) {
    for (const change of all)
      for (const id of change.reports) {
        const key = `${id} ${change.field ?? ''}`
        this.byReport.set(key, [...(this.byReport.get(key) ?? []), change])
      }
  }

  /** The stored change with which a read one shares most reports, the first of several. Each is given once. */
  take(change: NewChange): StoredChange | null {
    const shared = new Map<StoredChange, number>()
    for (const id of change.reports)
      for (const other of this.byReport.get(`${id} ${change.field ?? ''}`) ?? [])
        if (!this.taken.has(other.id)) shared.set(other, (shared.get(other) ?? 0) + 1)
    const [best] = [...shared].sort(([a, m], [b, n]) => n - m || a.id - b.id)[0] ?? []
    if (best) this.taken.add(best.id)
    return best ?? null
  }

  /** Those that count still and were not given. */
  left(): StoredChange[] {
    return this.all.filter((change) => change.gone_why === null && !this.taken.has(change.id))
  }
}

function whyGone(change: StoredChange, history: SubjectHistory | undefined): string {
  if (history?.goneWhy) return history.goneWhy
  return history && change.reports.every((id) => history.undone.has(id)) ? 'undone' : 'told otherwise'
}

/** Whether lists must be asked about it again: it is of another record or kind, says something else, or counts again. */
const isNews = (change: NewChange, own: StoredChange): boolean =>
  own.subject !== change.subject || own.kind_id !== change.kind || own.entry_id !== change.entry || own.gone_why !== null

const asStored = (change: NewChange, own: StoredChange): boolean =>
  !isNews(change, own) &&
  own.from_entry === change.fromEntry &&
  own.sources === change.sources &&
  own.after_day === change.after &&
  own.by_day === change.by &&
  own.sure === change.sure &&
  own.learned_at.getTime() === change.learnedAt &&
  own.reports.length === change.reports.length &&
  own.reports.every((id, i) => id === change.reports[i])
