'use client'

import { useReducer } from 'react'
import type { TableSet } from '@/core/facets/table'
import type { ProposalSide } from './proposal-records'
import type { Group } from './list-groups'
import type { Theirs } from './their-changes'

/** What the page of a list shows besides the lines themselves and the view on their records. */
export interface ListPage {
  /** The line whose form is open. */
  inHand: string | null
  /** The line that was just added and is not filled in yet. */
  justAdded: string | null
  /** How often data changed elsewhere since the page was opened: the figures are asked for anew each time. */
  heard: number
  /** An edition that somebody else saved, to be compared with what stands here. */
  theirs: Theirs | null
  /** The same before it is looked at: its number, and who saved it. */
  elsewhere: { edition: number; by: string } | null
  /** An error to show. */
  told: string | null
  /** What was done, to show beside the buttons. */
  said: string | null
  table: TableSet
  /** The reason that goes with the next edition or proposal. */
  why: string
  /** What the records are counted by, instead of being shown one by one. */
  group: Group | null
  /** What became of the rows of a file that was picked from. */
  came: string | null
  /** A proposal that is gone through line by line. */
  trying: Theirs | null
  /** The line whose comments are open. */
  talking: string | null
  /** A proposal whose people are shown, and which of them. */
  weighed: { id: number; side: ProposalSide } | null
}

const EMPTY: Omit<ListPage, 'table' | 'theirs'> = {
  inHand: null,
  justAdded: null,
  heard: 0,
  elsewhere: null,
  told: null,
  said: null,
  why: '',
  group: null,
  came: null,
  trying: null,
  talking: null,
  weighed: null,
}

/** The state of a list's page, and what changes some of it; `heard` says that data changed elsewhere. */
export function useListPage(start: Pick<ListPage, 'table' | 'theirs'>): [ListPage, (change: Partial<ListPage> | 'heard') => void] {
  return useReducer(
    (page: ListPage, change: Partial<ListPage> | 'heard'): ListPage =>
      change === 'heard' ? { ...page, heard: page.heard + 1 } : { ...page, ...change },
    start,
    (given): ListPage => ({ ...EMPTY, ...given }),
  )
}
