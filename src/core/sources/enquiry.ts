import type { Prices, SearchedName, SourceName, Search } from './source'
import type { Split } from './parts'

export type EnquiryKind = 'find' | 'fill' | 'check'
export type EnquiryState = 'asking' | 'ready' | 'running' | 'stopped' | 'failed' | 'done'

/** What may become of one thing an enquiry asks about. */
export const ITEM_STATES = ['open', 'known', 'left out', 'fetched', 'verified', 'uncertain', 'bad', 'nothing'] as const
export type ItemState = (typeof ITEM_STATES)[number]

/** Gaps that can be filled, and what their columns are called in a file. */
export const FILLABLE = { email: 'E-mail', phone: 'Phone', role: 'Role', organisation: 'Organisation', address: 'Street' } as const
export type Fillable = keyof typeof FILLABLE
export const FILLABLES = Object.keys(FILLABLE) as Fillable[]

/** The titles under which what somebody lacks comes. An address comes as a whole. */
export const titlesOf = (lacks: readonly Fillable[]): string[] =>
  lacks.flatMap((field) => (field === 'address' ? ['Street', 'Town', 'Postcode'] : [FILLABLE[field]]))

/** What an enquiry was asked, by its kind. */
export type Asked =
  | { kind: 'find'; search: Search; split: Split | null; wanted: ('email' | 'phone' | 'post')[] }
  | { kind: 'fill'; of: Of; fields: Fillable[] }
  | { kind: 'check'; of: Of }

/** Of whom: everybody on a list as it was when it was asked, everybody a batch brought or met, or the rows of a file that waits. */
export type Of = { list: number; name: string } | { batch: number; name: string } | { file: number; name: string }

/** How far an enquiry got, and what it cost, in minor units. */
export interface EnquiryView {
  id: number
  kind: EnquiryKind
  source: SourceName
  name: string
  asked: Asked
  state: EnquiryState
  counts: Record<ItemState, number>
  total: number
  /** Parts of a search, each with how many it has and how many came. */
  parts: { text: string; total: number | null; came: number; more: number }[]
  /** Where a search finds more than is given out: by what it can be narrowed. */
  narrowing: { most: number; total: number; subKinds: [string, number][]; districts: [string, number][]; best: Split } | null
  prices: Prices | null
  cost: number
  cap: number | null
  /** Of gaps: how many of each were filled, by their titles. */
  filled: [title: string, count: number][]
  /** The most that what is open can cost. */
  most: number
  /** Seconds that are left, by how fast it goes; null where that cannot be told yet. */
  left: number | null
  note: string | null
  by: string
  at: string
  batch: number | null
}

export interface ItemView {
  n: number
  title: string
  detail: string
  state: ItemState
  why: string | null
  has: string[]
  person: number | null
}

export interface EnquiryIndexRow {
  id: number
  kind: EnquiryKind
  source: SourceName
  name: string
  state: EnquiryState
  counts: Partial<Record<ItemState, number>>
  cost: number
  currency: string
  at: string
  by: string
}

/** The dearest that can come of asking about one thing. */
export function dearest(kind: EnquiryKind, prices: Prices): number {
  return kind === 'find' ? prices.fetch : Math.max(...Object.values(kind === 'fill' ? prices.fill : prices.check))
}

/** Of so many that may cost `each` at most, how many may still be asked about before a cap is passed. */
export function within(cap: number | null, cost: number, each: number, wanted: number): number {
  if (cap === null || each === 0) return wanted
  return Math.max(0, Math.min(wanted, Math.floor((cap - cost) / each)))
}

export type { SearchedName }
