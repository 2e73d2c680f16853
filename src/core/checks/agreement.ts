export interface Agreement {
  /** How many records both judged. */
  both: number
  /** Of how many of them they said the same. */
  same: number
  /** How much of what chance would not explain they agree on; null where chance explains all, or nothing was judged by both. */
  kappa: number | null
}

/**
 * How far two people agree on what they both judged. Records are told by the key; whatever only one judged is left out.
 * Source: J. Cohen, A coefficient of agreement for nominal scales, Educational and Psychological Measurement 20 (1960).
 */
export function agreement(one: ReadonlyMap<number, string>, other: ReadonlyMap<number, string>): Agreement {
  const pairs = [...one].flatMap(([key, said]) => {
    const also = other.get(key)
    return also === undefined ? [] : [[said, also] as const]
  })
  const both = pairs.length
  const same = pairs.filter(([a, b]) => a === b).length
  if (both === 0) return { both, same, kappa: null }
  const words = new Set(pairs.flat())
  const chance = [...words].reduce(
    (sum, word) => sum + (pairs.filter(([a]) => a === word).length / both) * (pairs.filter(([, b]) => b === word).length / both),
    0,
  )
  return { both, same, kappa: chance === 1 ? null : (same / both - chance) / (1 - chance) }
}
