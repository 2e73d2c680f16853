import type { Channel } from '../records/channels'

/** What a plan seeks to keep to. Costs are whole minor units of money (pence) a contact; null is no limit. */
export interface ReachWanted {
  /** The channels that are used, the preferred one first. */
  order: readonly Channel[]
  most: Readonly<Partial<Record<Channel, number | null>>>
  cost: Readonly<Partial<Record<Channel, number>>>
  budget: number | null
  /** So many people at most; null, or left out, is no limit. */
  people?: number | null
}

/** People who are equal in all that matters: how many are clear by exactly these channels. */
export interface ReachClass {
  channels: readonly Channel[]
  size: number
}

/** How many of each class are contacted by each channel, in the order of the classes and of `order`; the others wait. */
export interface ReachPlan {
  given: number[][]
  people: number
  cost: number
}

/**
 * Gives each person one channel at most: first the most people within the limits and the budget, then by the channel they are to be
 * contacted by before all, the one after it, and so on, then at the least cost. Exact at any size: how many can be contacted by some channels
 * is a coverage function, so totals by channel form a polymatroid, on which adding the cheapest that still fits is best for every number of
 * people (J. Edmonds, Submodular functions, matroids, and certain polyhedra, 1970; from memory). Of a channel's total the least cost is
 * convex, so the largest that the budget bears is found by halving.
 */
export function planReach(classes: readonly ReachClass[], wanted: ReachWanted): ReachPlan {
  const { order } = wanted
  const reached = coverage(classes, order)
  const price = order.map((channel) => wanted.cost[channel] ?? 0)
  const most = order.map((channel) => wanted.most[channel] ?? Number.POSITIVE_INFINITY)
  const budget = wanted.budget ?? Number.POSITIVE_INFINITY
  /** How many more a channel takes beside these totals. */
  const room = (totals: readonly number[], c: number) => {
    let least = most[c] - totals[c]
    for (let set = 1; set < reached.length; set++) if (set & (1 << c)) least = Math.min(least, reached[set] - sumOver(totals, set))
    return Math.max(0, least)
  }
  const byPrice = order.map((_, c) => c).sort((a, b) => price[a] - price[b] || a - b)
  /** The cheapest totals of so many people in all, the first channels being fixed; null where there are none. */
  const cheapest = (fixed: readonly number[], people: number): number[] | null => {
    const totals = order.map(() => 0)
    for (const [c, own] of fixed.entries()) {
      if (room(totals, c) < own) return null
      totals[c] = own
    }
    let left = people - sum(totals)
    for (const c of byPrice) {
      if (c < fixed.length || left <= 0) continue
      const more = Math.min(left, room(totals, c))
      totals[c] += more
      left -= more
    }
    return left === 0 ? totals : null
  }
  const costOf = (totals: readonly number[]) => totals.reduce((all, own, c) => all + own * price[c], 0)
  const fits = (totals: number[] | null): totals is number[] => totals !== null && costOf(totals) <= budget
  const people = largest(Math.min(reached[reached.length - 1] ?? 0, wanted.people ?? Number.POSITIVE_INFINITY), (n) =>
    fits(cheapest([], n)),
  )
  const fixed: number[] = []
  for (const c of order.keys()) {
    // What the cheapest totals give a channel is possible; from there on up, more of it is dearer and dearer.
    const least = (cheapest(fixed, people) as number[])[c]
    const atMost = Math.min(people, room([...fixed, ...order.slice(fixed.length).map(() => 0)], c))
    fixed.push(least + largest(atMost - least, (more) => fits(cheapest([...fixed, least + more], people))))
  }
  return { given: sharedOut(classes, order, fixed), people, cost: costOf(fixed) }
}

const sum = (of: readonly number[]): number => of.reduce((all, own) => all + own, 0)
const sumOver = (totals: readonly number[], set: number): number => totals.reduce((all, own, c) => all + (set & (1 << c) ? own : 0), 0)

/** By each set of channels, a bit each in their order: how many people are clear by one of them at least. */
function coverage(classes: readonly ReachClass[], order: readonly Channel[]): number[] {
  return Array.from({ length: 1 << order.length }, (_, set) =>
    classes.reduce((all, { channels, size }) => all + (order.some((c, i) => set & (1 << i) && channels.includes(c)) ? size : 0), 0),
  )
}

/** The largest number from 0 to `most` of which something is so, where it is so of all smaller ones and of 0. */
function largest(most: number, is: (n: number) => boolean): number {
  let [low, high] = [0, Math.max(0, most)]
  while (low < high) {
    const middle = Math.ceil((low + high) / 2)
    if (is(middle)) low = middle
    else high = middle - 1
  }
  return low
}

/** Totals by channel as numbers by class: a flow from classes to channels, by shortest paths (Edmonds and Karp 1972). */
function sharedOut(classes: readonly ReachClass[], order: readonly Channel[], totals: readonly number[]): number[][] {
  const given = classes.map(() => order.map(() => 0))
  const free = classes.map(({ size }) => size)
  const may = classes.map(({ channels }) => order.map((channel) => channels.includes(channel)))
  for (const c of order.keys()) {
    let need = totals[c]
    while (need > 0) {
      const path = pathTo(c, may, given, free)
      if (!path) throw new Error('totals by channel that nobody can be given')
      // A path takes one channel from a class that another can have it from: so many as all its steps bear.
      const many = Math.min(need, free[path[0].from], ...path.slice(0, -1).map(({ by }, i) => given[path[i + 1].from][by]))
      path.forEach(({ from, by }, i) => {
        given[from][by] += many
        if (i > 0) given[from][path[i - 1].by] -= many
      })
      free[path[0].from] -= many
      need -= many
    }
  }
  return given
}

/**
 * A way to give one more contact by a channel: from a class with somebody free, each step giving the class a channel, which the next one
 * gives up for another; the last gives the channel that is asked for.
 */
function pathTo(
  channel: number,
  may: readonly boolean[][],
  given: readonly number[][],
  free: readonly number[],
): { from: number; by: number }[] | null {
  // Backwards: who could take the channel over, and what they would give up.
  const queue: { class: number; path: { from: number; by: number }[] }[] = []
  const seen = new Set<number>()
  may.forEach((own, from) => {
    if (own[channel]) {
      queue.push({ class: from, path: [{ from, by: channel }] })
      seen.add(from)
    }
  })
  for (const step of queue) {
    if (free[step.class] > 0) return step.path
    for (const [by, many] of given[step.class].entries()) {
      if (many === 0 || by === channel) continue
      may.forEach((own, from) => {
        if (!own[by] || seen.has(from)) return
        seen.add(from)
        queue.push({ class: from, path: [{ from, by }, ...step.path] })
      })
    }
  }
  return null
}
