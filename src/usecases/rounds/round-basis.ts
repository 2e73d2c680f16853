import type { PageOfLines } from '@/engine/protocol'
import { createHash } from 'node:crypto'
import { withinDaysFrom } from '@/core/calendar/local-day'
import type { Allowance, LetThrough, ScreeningMoment } from '@/core/screening/kind'
import { requestsMade } from '@/db/screening/allowance-rows'
import { now } from '@/runtime/clock'
import { settings } from '@/runtime/settings'
import { withoutFile } from '@/core/screening/differences'
import { isOff, type Rule } from '@/core/screening/rules'
import type { Knex } from '@/db/connection'
import { expanded } from '@/usecases/lists/named-lists'
import { type EditionRow, latestEdition } from '@/db/lists/list-rows'
import { letThroughOf, withRegister } from '@/db/screening/let-through'
import { type OpenerWish, openerWishes } from '@/db/rounds/opener-rows'
import { earlierRounds, lastReleasedOf, type RoundRow, settingsOf, type UsedEditions } from '@/db/rounds/round-rows'
import { seatsOf } from '@/db/rounds/frozen-round'
import { inSteps, type Steps } from '@/core/rounds/steps'
import { onlyNewLines, supplementLines } from '@/core/rounds/only-new'
import type { Line } from '@/core/lists/line'

/** What a round that is being built goes by: all that decides who is on it and who is held back, but for the records themselves. */
export interface RoundBasis {
  edition: EditionRow
  page: PageOfLines & { uses: UsedEditions }
  /** With the register that is in. */
  rules: Rule[]
  letThrough: LetThrough[]
  /** The kinds of changes that give an opener, with their sentences. */
  openers: OpenerWish[]
  /** Whether it is for new people alone: then its lines drop whoever an earlier round released. */
  onlyNew: boolean
  /** When each channel is worked; null where all are at once. */
  steps: Steps | null
  /** Rounds whose contacts to come do not count, and what its own round released where it is a supplement. */
  beside: Pick<ScreeningMoment, 'exceptRounds' | 'seats' | 'allowances'>
  /** Tells one basis from another by what is in it. */
  print: string
  /** The same without what only goes with a contact: tells whether others may be on it or held back. */
  whoPrint: string
}

/** Reads the basis of a round, with rules that are not kept yet where there are any: under the locks of its list and of itself it stays as it is, but for named lists and the register. */
export async function basisOf(trx: Knex, round: number, list: number, draft?: Rule[]): Promise<RoundBasis> {
  const edition = await latestEdition(list, trx)
  const built = await settingsOf(trx, round)
  const { rules: own, only_new: onlyNew, steps } = built
  const page = await expanded(await linesOfRound(trx, built, edition.lines), {}, trx)
  const rules = await withRegister(draft ?? own, trx)
  const letThrough = (await letThroughOf(round, trx)).sort((a, b) => a.person - b.person || (a.channel < b.channel ? -1 : 1))
  const openers = await openerWishes(trx, list)
  const beside = await besideOf(trx, built, rules)
  const parts = partsOf({ edition, page, rules, letThrough, openers, onlyNew, steps, beside })
  const printOf = (of: unknown) => createHash('sha256').update(JSON.stringify(of)).digest('hex').slice(0, 24)
  return {
    edition,
    page,
    rules,
    letThrough,
    openers,
    onlyNew,
    steps,
    beside,
    print: printOf(parts),
    whoPrint: printOf(parts.filter(([said]) => ![OPENERS, STEPS, REQUESTS].includes(said))),
  }
}

/**
 * What a round stands beside when it is screened by some rules: the last released round of its list, which ends with the next one or of which
 * it is a supplement, and what was used of allowances.
 */
export async function besideOf(
  trx: Knex,
  round: Pick<RoundRow, 'id' | 'list_id' | 'number' | 'supplement'>,
  rules: readonly Rule[],
): Promise<RoundBasis['beside']> {
  const exceptRounds = await lastReleasedOf(round.list_id, trx)
  const beside = { exceptRounds, ...(await allowancesOf(trx, round, rules)) }
  if (round.supplement === 0) return beside
  const of = await seatsOf(trx, exceptRounds)
  return { ...beside, seats: { print: createHash('sha256').update(JSON.stringify(of)).digest('hex').slice(0, 24), of } }
}

/**
 * What was used of each allowance that some rules set, for a round that is built; nothing where none does. Contacts to come do not count of its
 * own, and of rounds that end with it.
 */
export async function allowancesOf(
  trx: Knex,
  { id, list_id, supplement }: Pick<RoundRow, 'id' | 'list_id' | 'supplement'>,
  rules: readonly Rule[],
): Promise<Pick<ScreeningMoment, 'allowances'>> {
  const ending = supplement > 0 ? [] : await lastReleasedOf(list_id, trx)
  const told: [string, Allowance][] = []
  for (const rule of rules)
    if (rule.kind === 'message-requests' && !isOff(rule)) {
      const since = new Date(withinDaysFrom(now().getTime(), rule.days, settings().ARCH_ZONE))
      told.push([rule.id, await requestsMade(trx, since, [...ending, id])])
    }
  return told.length === 0 ? {} : { allowances: Object.fromEntries(told) }
}

/**
 * The lines of a round: those of an edition of its list, without whoever an earlier round released where it is for new people alone. A
 * supplement is for those alone who are not in its round yet.
 */
export async function linesOfRound(
  trx: Knex,
  round: Pick<RoundRow, 'list_id' | 'number' | 'supplement' | 'only_new'>,
  lines: Line[],
): Promise<Line[]> {
  const own = await linesOfBase(trx, round, lines)
  if (round.supplement === 0) return own
  return supplementLines(own, (await earlierRounds(trx, round)).list, round.number)
}

/** The same without the line that keeps a supplement apart from its round. */
export async function linesOfBase(trx: Knex, round: Pick<RoundRow, 'list_id' | 'number' | 'only_new'>, lines: Line[]): Promise<Line[]> {
  if (!round.only_new) return lines
  const { list, numbers } = await earlierRounds(trx, round)
  return onlyNewLines(lines, list, numbers)
}

/** Rules as a text that does not hang on the order in which their settings stand: the database keeps another than a form does. */
const plain = (rules: readonly Rule[]) => JSON.stringify(rules.map((rule) => Object.entries(rule).sort(([a], [b]) => (a < b ? -1 : 1))))

/** Whether a rule goes by the register file that is in. */
const byFile = (rule: Rule): boolean => rule.kind === 'register' || rule.kind === 'register-age'

const OPENERS = 'The openers of the list were changed'
const STEPS = 'The steps of this round were changed'
const REQUESTS = 'Message requests were used, answered or taken by another round'

const partsOf = ({
  edition,
  page,
  rules,
  letThrough,
  openers,
  onlyNew,
  steps,
  beside,
}: Omit<RoundBasis, 'print' | 'whoPrint'>): [said: string, value: string][] => [
  ['The list was saved again', String(edition.number)],
  ['A list that this one names was saved again', JSON.stringify(Object.entries(page.uses).sort())],
  ['A newer register file came in', plain(rules.filter(byFile))],
  ['The rules of this round were changed', plain(rules.filter((rule) => !byFile(rule)).concat(rules.filter(byFile).map(withoutFile)))],
  ['Somebody was let through, or a let-through was taken back,', JSON.stringify(letThrough)],
  ['Whether the round is for new people alone was changed', String(onlyNew)],
  [OPENERS, JSON.stringify(openers)],
  [REQUESTS, JSON.stringify(beside.allowances ?? {})],
  [STEPS, JSON.stringify(inSteps(steps ?? {}))],
]

/** What differs between two bases of a round, as the beginning of a sentence; null where nothing does. */
export function differing(one: RoundBasis, other: RoundBasis): string | null {
  const before = partsOf(one)
  return partsOf(other).find(([, value], i) => value !== before[i][1])?.[0] ?? null
}
