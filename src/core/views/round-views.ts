import type { Outcome } from '../checks/plan'
import type { Phrase } from '../criteria/kind'
import type { SavedLayout } from '../rounds/file-layout'
import type { ProcedureStep } from '../rounds/procedure'
import type { SharedBecause, SharingHow } from '../rounds/share-out'
import type { Steps } from '../rounds/steps'
import type { RequalifyFigures } from '../rounds/requalify'
import type { ScreeningFigures } from '../screening/account'
import type { Rule } from '../screening/rules'
import type { Stand } from '../screening/stand'
import type { PeoplePage } from './record-views'
import type { Channel } from '../records/channels'
import type { Subject } from '../records/subject'
import type { Reason, Scope } from '../records/suppression'

/** Plain shapes that screens of rounds and of who must not be contacted are drawn from. Instants are ISO 8601 strings in UTC. */

export type RoundState = 'being built' | 'released' | 'closed'

/** What every round says of itself, whatever it is of. */
export interface RoundHead {
  id: number
  number: number
  /** 0 of a round itself; its supplements are counted from 1. */
  supplement: number
  /** What it is called after the word: "4", or "4, supplement 1". */
  called: string
  listId: number
  list: string
  state: RoundState
  startedAt: string
  releasedAt: string | null
  closedAt: string | null
  by: string
  edition: number
  mayRelease: boolean
  /** Whether the released files may be had, which is for those who may use the list. */
  mayTake: boolean
}

export interface RoundPage extends RoundHead {
  rules: { rule: Rule; phrases: Phrase[]; note: string; optional: boolean }[]
  /** The policy it began with; null in rounds that are older than policies. */
  policy: { id: number; name: string; edition: number; newest: { policy: string; edition: number } | null } | null
  /** What is other than in that edition, for this round alone: said in words, with who changed it last and why. */
  ruleChanges: { said: string[]; by: string; at: string; why: string | null } | null
  /** Withdrawn files held somebody who was erased: they are had no more. */
  files: {
    channel: Channel
    name: string
    /** As it was released; so many of them are left out when it is downloaded now, since they must not be contacted any more. */
    rows: number
    leftOut: number
    sha256: string
    withdrawnAt: string | null
    /** The headings of its columns. */
    heading: string[]
  }[]
  /** When its emails began to leave from here; null where none did. */
  mailedAt: string | null
  /** Of a released round that is planned by weeks: how many contacts of each week are planned, and how many are still to make. */
  weeks: { week: number; from: string; by: Partial<Record<Channel, { planned: number; open: number }>> }[]
  /** When each channel is worked; null where all are at once. */
  steps: Steps | null
  /** Of a released round that works in steps: from which day each channel is due (YYYY-MM-DD), how many contacts were planned, spared, and are to make. */
  stepsMade: { channel: Channel; due: string; planned: number; open: number; spared: number }[]
  /** Whether it is for those alone whom no earlier round of the list released. */
  onlyNew: boolean
  /** The list's round before: what was done in it, what differs from it, and how many were clear; null in the first. */
  last: {
    id: number
    number: number
    clear: Record<Channel, number> | null
    /** What its contacts cost by its own plan, in minor units; null where it had no costs. */
    cost: number | null
    steps: ProcedureStep[]
    sharing: { channel: Channel; how: SharingHow }[]
    differs: string[]
  } | null
  /** How its contacts are shared out among colleagues, a channel each. */
  shares: { channel: Channel; by: string; at: string; colleagues: { id: string; name: string; people: number; open: number }[] }[]
  /** The layouts the team has saved for files. */
  layouts: SavedLayout[]
  requalified: RequalifyFigures | null
  /** The newest fit check: what it has come to, how many were seen of how many, and the share that fits, 0 to 1. */
  check: { outcome: Outcome; ended: boolean; seen: number; sample: number; share: number | null } | null
  hasEarlier: boolean
  /** The supplements of a round in their order, with how many were clear in each that is out; of a supplement none. */
  supplements: { id: number; called: string; state: RoundState; clear: number | null }[]
  /** The round that a supplement belongs to; null in a round itself. */
  base: { id: number; called: string; closed: boolean } | null
  /** How many people were let through. */
  letThrough: number
  toCome: { open: number; all: number }
  /** Contacts that suppressions stopped since the release, by channel, and who took a file that names one of them. */
  stopped: { channel: Channel; people: number; takenBy: { name: string; at: string }[] }[]
}

/** A plan with one thing changed; the first, without a title, is the plan as it is. */
export interface PlanVariant {
  title: string
  people: number
  clear: Record<Channel, number>
  /** In minor units. */
  cost: number
}

/** Email addresses of a list that were not checked lately: how many, how many of them never, and within how many days is lately. */
export interface StaleEmails {
  stale: number
  never: number
  days: number
}

/** What sharing out contacts gives each colleague of those who may use the list, and why. */
export interface SharesTold {
  people: number
  colleagues: ({ id: string; name: string; post: string; people: number } & Record<SharedBecause, number>)[]
}

/** What address labels of a round would be. */
export interface LabelsTold {
  labels: number
  sheets: number
  /** How many have letters that no font has, which are spelled in Latin ones. */
  respelled: number
  withoutStreet: number
  /** How many get none, since they must not be contacted any more. */
  leftOut: number
}

/** Whether one contact of a round may be made at this moment: where it goes, or why not. */
export type ContactCheck = { may: true; to: string } | { may: false; title: string; detail: string }

/** What somebody saw when they released a round: the print of what it rests on, and how many were clear by each channel. */
export interface Confirmed {
  basis: string
  clear: Record<Channel, number>
}

export interface RoundAccount {
  /** Tells what the account goes by: list, rules, register, who was let through; a release refuses where that is not so any more. Null once released. */
  basis: string | null
  figures: ScreeningFigures
  page: PeoplePage
}

export interface RoundIndexRow {
  id: number
  called: string
  supplement: boolean
  listId: number
  list: string
  subject: Subject
  state: RoundState
  at: string
  by: string
  listed: number | null
  clear: number | null
  toCome: number
}

export interface SuppressionView {
  id: number
  reason: Reason
  channels: Channel[]
  scope: Scope
  who: string
  personId: number | null
  organisationId: number | null
  since: string
  until: string | null
  word: string
  /** What it rests on besides, and the file it came with. */
  evidence: string | null
  batch: { id: number; file: string } | null
  lifted: { at: string; word: string; by: string } | null
  by: string
  stand: Stand
  catches: number
}

export interface SuppressionIndex {
  total: number
  rows: SuppressionView[]
  /** How many stand, are still to come, are over by their own end, and were lifted. */
  counts: { reason: Reason; standing: number; toCome: number; ended: number; lifted: number }[]
  registers: RegisterView[]
  liftings: LiftingView[]
  /** What ends by itself within a week, with the first day on which it does not hold any more (YYYY-MM-DD in the team's zone). */
  ending: { id: number; who: string; personId: number | null; reason: Reason; until: string }[]
}

/** A register's version in use; what is new and gone since the version before it; how many of those that stand by it are gone from it. */
export interface RegisterView {
  name: string
  version: string
  goodThrough: string
  since: { fresh: number; gone: number } | null
  stillHeld: number
  standing: number
  /** How many per cent of those that stand may be lifted at once without a written reason. */
  share: number
}

/** One act of lifting that can be taken back. */
export interface LiftingView {
  id: number
  at: string
  word: string
  lifted: number
  by: string
}

export interface RequalifyPage {
  list: string
  round: { id: number; number: number; releasedAt: string; open: boolean; supplements: number }
  editions: { earlier: number; today: number }
  listed: RequalifyFigures
  clear: RequalifyFigures
  /** Each row's cause in words, in the order of the rows of each account. */
  causes: { listed: string[]; clear: string[] }
  page: PeoplePage
}

export type ScreeningView =
  | { tab: 'clear' | 'held' | 'through' | 'stopped' }
  | { tab: 'channel'; channel: Channel }
  | { tab: 'rule'; rule: string; channel?: Channel }
  | { tab: 'ways'; channels: Channel[] }

export type RequalifyView =
  | { account: 'listed' | 'clear'; tab: 'left' | 'joined' | 'stayed' }
  | { account: 'listed' | 'clear'; tab: 'row'; row: number }
