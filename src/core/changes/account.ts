import { ASKS, type Asks } from './asks'

/** Why a change came into somebody's account, or left it, since they last looked. */
export const CAME = ['put off', 'new', 'taken up again', 'newly followed'] as const
export type Came = (typeof CAME)[number]
export const WENT = ['handled by you', 'handled by others', 'put off', 'set aside', 'no longer followed', 'gone'] as const
export type Went = (typeof WENT)[number]

/** One change as it stands for one colleague. */
export interface Standing {
  id: number
  asks: Asks
  /** Whether it is unhandled for them now, and whether it was when they last looked. */
  now: boolean
  then: boolean
  /** Whether it was told since they looked, whatever became of it. */
  toldSince: boolean
  /** Whether it reaches them only by what they began to follow since they looked. */
  newly: boolean
  /** Whether what was handled or set aside was opened again since. */
  reopened: boolean
  /** Put off by them until a day that has come, or that is still to come. */
  putOff: 'due' | 'waiting' | null
  state: 'open' | 'taken' | 'handled' | 'set aside'
  /** Whether what became of it last, became of it since they looked. */
  settledSince: boolean
  /** Whether the last act was their own. */
  byThem: boolean
  gone: boolean
  /** Whether it would reach them at all, by what they follow now. */
  followed: boolean
}

/** The account of somebody's changes: opening + in − out = closing. What came is told by what it asks. */
export interface ChangesAccount {
  opening: number
  came: { why: Came; asks: Asks | null; n: number }[]
  went: { why: Went; n: number }[]
  closing: number
}

/**
 * What came into an account of changes and what left it. A change that came and was settled since is counted on both sides; one
 * that never reached the colleague on neither. `changes` holds each change once.
 */
export function changesAccount(changes: Iterable<Standing>): ChangesAccount {
  const came = new Map<string, number>()
  const went = new Map<Went, number>()
  let [opening, closing] = [0, 0]
  const add = <K>(to: Map<K, number>, key: K) => to.set(key, (to.get(key) ?? 0) + 1)
  for (const change of changes) {
    const passed = !change.now && !change.then && cameAndWent(change)
    if (change.then) opening++
    if (change.now) closing++
    if ((change.now && !change.then) || passed) {
      const why = whyCame(change)
      add(came, why === 'new' ? `new ${change.asks}` : why)
    }
    if ((change.then && !change.now) || passed) add(went, whyWent(change))
  }
  return {
    opening,
    came: [
      { why: 'put off' as const, asks: null, n: came.get('put off') ?? 0 },
      ...ASKS.map((asks) => ({ why: 'new' as const, asks, n: came.get(`new ${asks}`) ?? 0 })),
      ...(['taken up again', 'newly followed'] as const).map((why) => ({ why, asks: null, n: came.get(why) ?? 0 })),
    ],
    went: WENT.map((why) => ({ why, n: went.get(why) ?? 0 })),
    closing,
  }
}

/** Whether it reached them since they looked and was settled: what they only began to follow counts where they settled it themselves. */
const cameAndWent = (change: Standing): boolean =>
  change.followed && (change.newly ? change.byThem && change.settledSince && !change.gone : change.toldSince)

function whyCame(change: Standing): Came {
  if (change.putOff === 'due') return 'put off'
  if (change.reopened) return 'taken up again'
  return change.newly ? 'newly followed' : 'new'
}

function whyWent(change: Standing): Went {
  if (change.gone) return 'gone'
  if (change.state === 'handled') return change.byThem ? 'handled by you' : 'handled by others'
  if (change.state === 'set aside') return 'set aside'
  return change.putOff === 'waiting' ? 'put off' : 'no longer followed'
}
