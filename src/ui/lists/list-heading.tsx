'use client'

import { useRouter } from 'next/navigation'
import type { Sharing } from '@/core/records/list-roles'
import type { Line } from '@/core/lists/line'
import type { ActionResult } from '@/core/views/action-result'
import Link from 'next/link'
import { ASKS_SHORT, type Asks } from '@/core/changes/asks'
import { rhythmText } from '@/core/calendar/rhythm'
import type { ListView } from '@/core/views/list-views'
import type { RoundState } from '@/core/views/round-views'
import { count, day } from '@/ui/book/figures'
import { Labels } from './labels'
import type { ListActions } from './list-actions'
import { ListMenu } from './list-menu'

const ROLE_TOLD: Record<ListView['role'], string> = { see: ' · you may look and propose', use: ' · you may use it and propose', edit: '' }

/** What a list is called, whose it is, who else has it open, and what can be done with it as a whole. */
export function ListHeading({
  list,
  lines,
  changes,
  round,
  readers,
  sharing,
  team,
  actions,
  mayCoordinate,
  onTold,
}: {
  list: ListView
  lines: Line[]
  changes: { asks: Asks; n: number }[]
  round: { number: number; state: RoundState; at: string } | null
  readers: { name: string; working: boolean }[]
  sharing: Sharing
  team: { id: string; name: string }[]
  actions: ListActions
  mayCoordinate: boolean
  onTold: (text: string) => void
}) {
  const router = useRouter()
  const label = async (labels: string[]) => {
    const done: ActionResult<unknown> = await actions.shelve(list.id, { labels })
    if (!done.ok) onTold(done.error)
    router.refresh()
  }
  return (
    <div className="flex items-start justify-between gap-3">
      <div className="min-w-0">
        <h1 className="break-words">{list.name}</h1>
        {list.archived && (
          <p className="my-1 rounded-md bg-ochre-wash px-3 py-1">This list is archived. Lines and rounds that name it go on.</p>
        )}
        <p className="quiet">
          {whose(list, sharing)}
          {ROLE_TOLD[list.role]} · Edition {list.edition}, saved {day(list.savedAt)} by {list.savedBy}
          {list.onlyFollow
            ? ' · only for following'
            : list.due && list.rhythm
              ? ` · due ${day(`${list.due}T12:00:00Z`)}, ${rhythmText(list.rhythm)}`
              : ''}
          {list.openers.length > 0
            ? ` · openers from ${list.openers.length} ${list.openers.length === 1 ? 'kind' : 'kinds'} of changes`
            : ''}
          {list.placement
            ? ` · ${list.placement.kinds.length} ${list.placement.kinds.length === 1 ? 'kind' : 'kinds'} of changes ${list.placement.how === 'edition' ? 'add to it' : 'propose to add to it'}`
            : ''}
          {round ? ` · round ${round.number} ${round.state} ${day(round.at)}` : ''}
        </p>
        {changes.length > 0 && (
          <p className="quiet">
            Changes of its people:{' '}
            {changes.map(({ asks, n }, i) => (
              <span key={asks}>
                {i > 0 && ' · '}
                <Link href={`/changes?tab=${asks}&list=${list.id}`} className="font-semibold text-verdigris">
                  {count(n)} {ASKS_SHORT[asks]}
                </Link>
              </span>
            ))}
          </p>
        )}
        <p role="status" className="quiet text-verdigris empty:hidden" data-testid="readers">
          {readers.length > 0 && `Also here: ${readers.map((r) => (r.working ? `${r.name} (has lines not saved)` : r.name)).join(', ')}`}
        </p>
        <Labels labels={list.labels} mine={list.mine} onLabels={(labels) => void label(labels)} />
      </div>
      <ListMenu list={list} lines={lines} sharing={sharing} team={team} actions={actions} mayCoordinate={mayCoordinate} onTold={onTold} />
    </div>
  )
}

function whose(list: ListView, sharing: Sharing): string {
  const named = sharing.members.length
  if (!list.shared && named === 0) return 'Private to you'
  const by = list.mine ? 'you' : list.owner
  return list.shared ? `Shared by ${by}` : `Shared by ${by} with ${named === 1 ? 'one person' : `${named} people`}`
}
