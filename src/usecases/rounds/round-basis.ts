import type { PageOfLines } from '@/engine/protocol'
import { createHash } from 'node:crypto'
import type { LetThrough } from '@/core/screening/kind'
import { withoutFile } from '@/core/screening/differences'
import type { Rule } from '@/core/screening/rules'
import type { Knex } from '@/db/connection'
import { expanded } from '@/usecases/lists/named-lists'
import { type EditionRow, latestEdition } from '@/db/lists/list-rows'
import { letThroughOf, withRegister } from '@/db/screening/let-through'
import { type OpenerWish, openerWishes } from '@/db/rounds/opener-rows'
import { earlierRounds, type RoundRow, settingsOf, type UsedEditions } from '@/db/rounds/round-rows'
import { onlyNewLines } from '@/core/rounds/only-new'
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
  /** Tells one basis from another by what is in it. */
  print: string
  /** The same without what only goes with a contact: tells whether others may be on it or held back. */
  whoPrint: string
}

/** Reads the basis of a round, with rules that are not kept yet where there are any: under the locks of its list and of itself it stays as it is, but for named lists and the register. */
export async function basisOf(trx: Knex, round: number, list: number, draft?: Rule[]): Promise<RoundBasis> {
  const edition = await latestEdition(list, trx)
  const settings = await settingsOf(trx, round)
  const { rules: own, only_new: onlyNew } = settings
  const page = await expanded(await linesOfRound(trx, settings, edition.lines), {}, trx)
  const rules = await withRegister(draft ?? own, trx)
  const letThrough = (await letThroughOf(round, trx)).sort((a, b) => a.person - b.person || (a.channel < b.channel ? -1 : 1))
  const openers = await openerWishes(trx, list)
  const parts = partsOf({ edition, page, rules, letThrough, openers, onlyNew })
  const printOf = (of: unknown) => createHash('sha256').update(JSON.stringify(of)).digest('hex').slice(0, 24)
  return {
    edition,
    page,
    rules,
    letThrough,
    openers,
    onlyNew,
    print: printOf(parts),
    whoPrint: printOf(parts.filter(([said]) => said !== OPENERS)),
  }
}

/** The lines of a round: those of an edition of its list, without whoever an earlier round released where it is for new people alone. */
export async function linesOfRound(trx: Knex, round: Pick<RoundRow, 'list_id' | 'number' | 'only_new'>, lines: Line[]): Promise<Line[]> {
  if (!round.only_new) return lines
  const { list, numbers } = await earlierRounds(trx, round)
  return onlyNewLines(lines, list, numbers)
}

/** Rules as a text that does not hang on the order in which their settings stand: the database keeps another than a form does. */
const plain = (rules: readonly Rule[]) => JSON.stringify(rules.map((rule) => Object.entries(rule).sort(([a], [b]) => (a < b ? -1 : 1))))

/** Whether a rule goes by the register file that is in. */
const byFile = (rule: Rule): boolean => rule.kind === 'register' || rule.kind === 'register-age'

const OPENERS = 'The openers of the list were changed'

const partsOf = ({
  edition,
  page,
  rules,
  letThrough,
  openers,
  onlyNew,
}: Omit<RoundBasis, 'print' | 'whoPrint'>): [said: string, value: string][] => [
  ['The list was saved again', String(edition.number)],
  ['A list that this one names was saved again', JSON.stringify(Object.entries(page.uses).sort())],
  ['A newer register file came in', plain(rules.filter(byFile))],
  ['The rules of this round were changed', plain(rules.filter((rule) => !byFile(rule)).concat(rules.filter(byFile).map(withoutFile)))],
  ['Somebody was let through, or a let-through was taken back,', JSON.stringify(letThrough)],
  ['Whether the round is for new people alone was changed', String(onlyNew)],
  [OPENERS, JSON.stringify(openers)],
]

/** What differs between two bases of a round, as the beginning of a sentence; null where nothing does. */
export function differing(one: RoundBasis, other: RoundBasis): string | null {
  const before = partsOf(one)
  return partsOf(other).find(([, value], i) => value !== before[i][1])?.[0] ?? null
}
