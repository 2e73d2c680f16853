import type { LevelAccount, LevelTold, Movement } from '../changes/movement'

/** Somebody who was or is at the organisations, and how they moved. */
export interface MoverView {
  id: number
  name: string
  movement: Movement
  before: LevelTold | null
  after: LevelTold | null
  organisation: string | null
  role: string | null
  roleThen: string | null
  /** Of whoever arrived: from where; of whoever left: where to. */
  other: string | null
  /** They come from an organisation we have worked with. */
  dealt: boolean
}

/** The movement of people over a period. */
export interface MovementPage {
  of: { organisation: number | null; list: number | null }
  name: string
  /** The first day of the period. */
  since: string
  days: number
  organisations: number
  /** There are more organisations than are told of at once. */
  capped: boolean
  levels: LevelAccount[]
  people: MoverView[]
}
