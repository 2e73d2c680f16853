import type { Prices, SearchedName, SourceName, Search } from './source'
import type { AskedField } from '../criteria/kind'
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

/**
 * Of whom: everybody on a list as it was when it was asked, or of these whom one of its lines does not know what to make of; everybody a batch
 * brought or met; the rows of a file that waits; whose email a rule of a round closes.
 */
export type Of =
  | { list: number; name: string; line?: string; then?: Standing }
  | { batch: number; name: string }
  | { file: number; name: string }
  | { round: number; name: string; rule: string; then?: Standing }

/** How many a line or rule set aside, and how many are on the list or clear by email. */
export interface Standing {
  aside: number
  on: number
}

/** The most that filling the gaps of one person and checking one address can cost, in minor units of the currency. */
export interface DearestPrices {
  currency: string
  fill: number
  check: number
}

/** What a source can fill of that which a question about people asks for. */
export function fillsOf(asked: readonly AskedField[]): Fillable[] {
  return FILLABLES.filter((field) => asked.some((own) => FILLS[own] === field))
}

const FILLS: Partial<Record<AskedField, Fillable>> = {
  role: 'role',
  organisation: 'organisation',
  email: 'email',
  phone: 'phone',
  post: 'address',
  street: 'address',
  town: 'address',
  postcode: 'address',
}

/** Of so many whom a line does not know what to make of, about how many would stay, going by those of whom it knows; null where it knows of none. */
export function aboutStaying(unknown: number, { stay, go }: { stay: number; go: number }): number | null {
  return stay + go === 0 ? null : Math.round((unknown * stay) / (stay + go))
}

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
  /** Of a line or rule: what it set aside when it was asked about, and what it does now. */
  balance: { of: string; at: string; then: Standing; now: Standing } | null
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
