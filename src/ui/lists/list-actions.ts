import type { ReactNode } from 'react'
import type { Asks } from '@/core/changes/asks'
import type { Subject } from '@/core/records/subject'
import type { ColumnSet, SavedColumns, TableSet } from '@/core/facets/table'
import type { Sharing } from '@/core/records/list-roles'
import type { ListView as View } from '@/core/lists/view'
import type { ActionResult } from '@/core/views/action-result'
import type { LineComment, ListView, ProposalView } from '@/core/views/list-views'
import type { RoundState } from '@/core/views/round-views'
import type { Choices } from './form-props'
import type { TalkActions } from './line-talk'
import type { SettleProposal } from './proposals'
import type { ShareActions } from './share-dialog'
import type { Fill } from './fill-unknown'
import type { Theirs } from './their-changes'
import type { MarkAction, UnmarkAction, Marked } from '@/ui/tables/chosen-bar'

export interface ListActions extends ShareActions, TalkActions {
  shelve: (id: number, to: { archived?: boolean; pinned?: boolean; labels?: string[] }) => Promise<ActionResult<unknown>>
  saveList: (id: number, basedOn: number, lines: unknown, why?: string) => Promise<ActionResult<{ edition: number } | { theirs: Theirs }>>
  copy: (id: number) => Promise<ActionResult<number>>
  rhythm: (id: number, rhythm: unknown) => Promise<ActionResult<unknown>>
  onlyFollow: (id: number, only: boolean) => Promise<ActionResult<unknown>>
  openers: (id: number, wishes: unknown) => Promise<ActionResult<unknown>>
  placement: (id: number, placement: unknown) => Promise<ActionResult<unknown>>
  rename: (id: number, name: string) => Promise<ActionResult<unknown>>
  propose: (id: number, basedOn: number, lines: unknown, note: string) => Promise<ActionResult<number>>
  settleProposal: SettleProposal
  remove: (id: number) => Promise<ActionResult<unknown>>
  start: (id: number) => Promise<ActionResult<unknown>>
  table: (id: number, table: TableSet) => Promise<ActionResult<unknown>>
  saveColumns: (subject: Subject, name: string, columns: ColumnSet) => Promise<ActionResult<SavedColumns[]>>
  dropColumns: (id: number) => Promise<ActionResult<unknown>>
  owners: (id: number, of: { lines: unknown; view: View }) => Promise<ActionResult<{ batch: number; people: number; left: number }>>
  fill: Fill
  picks: (id: number, who: Marked) => Promise<ActionResult<{ set: { id: number; count: number }; names: string[]; by: string }>>
  fold: (id: number, sets: number[]) => Promise<ActionResult<{ set: { id: number; count: number } }>>
  mark: MarkAction
  unmark: UnmarkAction
}

export interface ListEditorProps {
  list: ListView
  me: { id: string; name: string; mayCoordinate: boolean }
  round: { id: number; number: number; state: RoundState; at: string } | null
  hasReleased: boolean
  /** The policy it is screened by, and how to choose another. */
  policy: ReactNode
  choices: Omit<Choices, 'me'>
  /** When this person last opened the list, before now. */
  lookedAt: string | null
  /** What unhandled changes of its people ask of whoever looks. */
  changes: { asks: Asks; n: number }[]
  /** How this person set up the table. */
  table: TableSet
  /** Columns the team saved for tables of what the list is of. */
  columnSets: SavedColumns[]
  sharing: Sharing
  comments: LineComment[]
  proposals: ProposalView[]
  actions: ListActions
}
