import { allocated } from './plan'
import { Random } from './random'

/**
 * Draws a sample at random within strata, in a random order over all of them: `strata` are ids, each id in one of them. Gives the place
 * of its stratum with each id. The same seed and the same strata draw the same.
 */
export function draw(strata: readonly (readonly number[])[], size: number, seed: number): { id: number; stratum: number }[] {
  const random = new Random(seed)
  const counts = allocated(
    strata.map((ids) => ids.length),
    size,
  )
  return random.shuffled(strata.flatMap((ids, stratum) => firstOf(ids, counts[stratum], random).map((id) => ({ id, stratum }))))
}

/** Draws from everybody alike, whatever their stratum: in the order in which a sequential plan looks at them. */
export function drawPlainly(strata: readonly (readonly number[])[], size: number, seed: number): { id: number; stratum: number }[] {
  const random = new Random(seed)
  const all = strata.flatMap((ids, stratum) => ids.map((id) => ({ id, stratum })))
  return firstOf(all, Math.min(size, all.length), random)
}

/** So many of some items at random, in random order, without shuffling the rest. */
function firstOf<T>(items: readonly T[], many: number, random: Random): T[] {
  const moved = new Map<number, T>()
  const at = (i: number) => moved.get(i) ?? items[i]
  return Array.from({ length: many }, (_, i) => {
    const j = i + random.below(items.length - i)
    const drawn = at(j)
    moved.set(j, at(i))
    return drawn
  })
}
