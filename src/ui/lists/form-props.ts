'use client'

import type { Line } from '@/core/lists/line'
import type { CustomField } from '@/core/clean/custom'
import type { Subject } from '@/core/records/subject'
import type { KnownWord } from '@/core/criteria/kind'
import type { AreaView, RoleWording } from '@/core/views/list-views'

export interface Choices {
  batches: { id: number; name: string }[]
  /** Lists that lines may name: every other list this person sees. */
  lists: { id: number; name: string; shared: boolean; subject: Subject; edition: number; rounds: number }[]
  /** Lists whose last round lines may go back to: this one first. */
  rounds: { id: number; name: string }[]
  words: Record<KnownWord, string[]>
  /** Everybody of the team, by whom a contact can have been made. */
  team: { id: string; name: string }[]
  areas: AreaView[]
  territories: { id: number; name: string }[]
  /** Wordings of a role the team takes for one. */
  wordings: RoleWording[]
  me: { id: string; name: string }
  customs: CustomField[]
}

export interface FormProps<L> {
  line: L
  /** The lines above it. */
  before: Line[]
  choices: Choices
  onChange: (line: Line) => void
  onDone: () => void
}
