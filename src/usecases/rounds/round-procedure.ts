import { procedureOf } from '@/core/rounds/procedure'
import { planCost } from '@/core/screening/one-channel'
import { differenceText, ruleDifferences } from '@/core/screening/differences'
import type { Rule } from '@/core/screening/rules'
import type { RoundPage } from '@/core/views/round-views'
import { stepsText } from '@/core/rounds/steps'
import { db } from '@/db/connection'
import { numberById } from '@/db/lists/editions'
import { fileRows } from '@/db/rounds/round-files'
import { openerWishes } from '@/db/rounds/opener-rows'
import { doneIn } from '@/db/rounds/procedure-rows'
import { releasedRounds } from '@/db/rounds/result-rows'
import { baseOf, type RoundRow } from '@/db/rounds/round-rows'
import { sharingsOf } from '@/db/rounds/share-rows'

/**
 * What the list’s round before did, or of a supplement its own round, as steps to repeat, and, while the round is being built, what differs from it: its edition, its rules,
 * its columns. Null in the first round of a list.
 */
export async function lastRoundOf(round: RoundRow, rules: Rule[], edition: number): Promise<RoundPage['last']> {
  const [before] = round.supplement > 0 ? [await baseOf(db(), round)] : await releasedRounds(db(), round.list_id, 1, round.number)
  if (!before) return null
  const then = (await numberById(db(), before.edition_id)).number
  const hadOpeners = (await fileRows(db(), before.id)).some(({ extra }) => extra.includes('Opener'))
  const hasOpeners = (await openerWishes(db(), round.list_id)).length > 0
  return {
    id: before.id,
    number: before.number,
    // A supplement is smaller than its round by its nature.
    clear: round.supplement > 0 ? null : (before.figures?.screening.clear ?? null),
    cost: round.supplement === 0 && before.figures ? planCost(before.rules, before.figures.screening.clear) : null,
    steps: procedureOf(await doneIn(db(), before.id), await doneIn(db(), round.id)),
    sharing: await sharingsOf(db(), before.id),
    differs: round.released_at
      ? []
      : [
          ...(then === edition ? [] : [`The list: edition ${edition}, edition ${then} in round ${before.number}`]),
          ...ruleDifferences(before.rules, rules).map((own) => differenceText(own, before.rules, rules)),
          ...(stepsText(before.steps) === stepsText(round.steps)
            ? []
            : [
                `Steps: ${stepsText(round.steps) ?? 'everything at once'}; in round ${before.number} ${stepsText(before.steps) ?? 'everything at once'}`,
              ]),
          ...(hadOpeners === hasOpeners
            ? []
            : [hasOpeners ? 'The files have a column of openers' : 'The files have no column of openers any more']),
        ],
  }
}
