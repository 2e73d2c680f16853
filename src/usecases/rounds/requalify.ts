import type { PageOfLines } from '@/engine/protocol'
import { type Line, lineText } from '@/core/lists/line'
import type { Cause, RequalifyFigures } from '@/core/rounds/requalify'
import type { ScreeningMoment } from '@/core/screening/kind'
import { type Rule, ruleNamed } from '@/core/screening/rules'
import { db } from '@/db/connection'
import { askEngine } from '@/engine/client'
import { expanded, withLastRounds } from '@/usecases/lists/named-lists'
import type { RoundRow } from '@/db/rounds/round-rows'
import { linesOfBase } from './round-basis'
import { linesById } from '@/db/lists/editions'

/** The page a round was frozen with, and the editions it used of the lists it names. */
export async function pageOf(round: RoundRow): Promise<PageOfLines> {
  const { lines } = await linesById(db(), round.edition_id)
  return expanded(await linesOfBase(db(), round, lines), round.uses)
}

/** What a released round and its supplements were frozen with, as the engine is asked: the round first. */
export const thenOf = (parts: readonly RoundRow[]): Promise<{ round: number; page: PageOfLines }[]> =>
  Promise.all(parts.map(async (part) => ({ round: part.id, page: await pageOf(part) })))

/** Both accounts of a list against a released round with its supplements, figures only. */
export async function requalifyFigures(
  parts: readonly RoundRow[],
  now: PageOfLines,
  rules: Rule[],
  moment: ScreeningMoment,
): Promise<{ listed: RequalifyFigures; clear: RequalifyFigures }> {
  const then = await thenOf(parts)
  const { listed, clear } = await askEngine('requalify', {
    then,
    now,
    rules,
    moment: await withLastRounds({ ...moment, exceptRounds: parts.map(({ id }) => id) }, [...then.map(({ page }) => page), now]),
    view: { account: 'listed', tab: 'left' },
    page: { offset: 0, limit: 0 },
  })
  return { listed, clear }
}

export interface Words {
  /** Of the round, then of each of its supplements. */
  linesThen: Line[][]
  linesNow: Line[]
  rules: Rule[]
  rulesThen: Rule[]
}

/** The line that a cause names. */
export const lineOf = (
  cause: Extract<Cause, { line: number }>,
  { linesThen, linesNow }: Pick<Words, 'linesThen' | 'linesNow'>,
): Line | undefined => (cause.edition === 'then' ? linesThen[cause.part ?? 0] : linesNow)[cause.line]

/** A cause as the account says it. */
export function causeText(cause: Cause, side: 'left' | 'joined', { linesThen, linesNow, rules, rulesThen }: Words): string {
  switch (cause.by) {
    case 'directory':
      return side === 'left' ? 'No longer in the directory' : 'New in the directory'
    case 'list':
      return side === 'left' ? 'Left the list' : 'Joined the list'
    case 'rule':
      return side === 'left' ? `Now held back: ${ruleNamed(rules, cause.rule)}` : `No longer held back: ${ruleNamed(rulesThen, cause.rule)}`
    default: {
      const line = lineOf(cause, { linesThen, linesNow })
      const said = line ? lineText(line) : 'a line that is gone'
      if (cause.by === 'edition') {
        if (side === 'left') return `New edition: ${said}${cause.how === 'unknown' ? ' (now unknown)' : ''}`
        return cause.how === 'in' ? `New edition: ${said}` : `New edition, no longer: ${said}`
      }
      if (side === 'left') return `${said}${cause.how === 'unknown' ? ' (now unknown)' : ''}`
      return cause.how === 'in' ? said : `Now passes: ${said}${cause.how === 'unknown' ? ' (was unknown)' : ''}`
    }
  }
}
