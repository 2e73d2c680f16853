import type { Moment } from '@/core/criteria/kind'
import { listAccount, type ListAccount } from '@/core/lists/account'
import { subjectOf } from '@/core/lists/line'
import { areasNamed, atHand, picksIn } from '@/core/lists/named'
import type { Areas } from './areas'
import type { FrozenRounds } from './frozen-rounds'
import type { Looks } from './looks'
import type { PickSets } from './pick-sets'
import type { ReadModel } from './read-model'
import type { PageOfLines } from '@/engine/verbs/parts'

/** What answers are made from. Everything that has to be waited for is at hand before an account is begun. */
export interface Sources {
  model: ReadModel
  rounds: FrozenRounds
  picks: PickSets
  areas: Areas
  looks: Looks
}

/** Gets the sets of picked records and the areas that pages name, so that accounts can be worked out without waiting. */
export async function picked(
  { picks, areas, model }: Sources,
  pages: PageOfLines[],
): Promise<(page: PageOfLines, moment: Moment) => ListAccount> {
  const lines = pages.flatMap(({ lines: own, named }) => [own, ...Object.values(named)]).flat()
  const fixed = {
    picked: await picks.get(picksIn(lines).map((line) => line.set.id)),
    areas: await areas.get(areasNamed(lines).map((area) => area.id)),
  }
  return ({ lines: own, named }, moment) => {
    const { directory, answers } = model
    return listAccount(own, directory.of(subjectOf(own)), answers, atHand(moment, own, named, fixed, directory, answers))
  }
}
