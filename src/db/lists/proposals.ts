import type { Line } from '@/core/lists/line'

export interface ProposalRow {
  id: number
  list_id: number
  based_on: number
  lines: Line[]
  note: string
  proposed_by: string
  proposed_at: Date
  decision: 'taken' | 'not taken' | 'taken back' | null
  reason: string | null
  edition: number | null
}
