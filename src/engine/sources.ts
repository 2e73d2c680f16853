import { LRUCache } from 'lru-cache'
import type { Directory } from '@/core/columns/directory'
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

/** So many accounts of lists are kept for screening: whoever edits a rule asks for the same list again and again. */
const MOST_ACCOUNTS = 2
const accounts = new WeakMap<Directory, LRUCache<string, ListAccount>>()

/**
 * The account of a page, kept until a record changes, or the minute. For whoever asks for the same page again and again while something
 * else changes, such as the rules it is screened by.
 */
export function accountKept({ model }: Sources, page: PageOfLines, moment: Moment, work: () => ListAccount): ListAccount {
  const { directory } = model
  const kept = accounts.get(directory) ?? new LRUCache<string, ListAccount>({ max: MOST_ACCOUNTS })
  accounts.set(directory, kept)
  const { lastRounds, releasedAt, zone, asOf } = moment
  const key = JSON.stringify([directory.version, page.lines, page.named, zone, Math.floor(asOf / 60_000), lastRounds, releasedAt])
  const before = kept.get(key)
  if (before) return before
  const made = work()
  kept.set(key, made)
  return made
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
