type Corner = readonly [number, number]

/**
 * Two sides of a ring that cross or touch where they should not, by the corners they begin at; null where none do. Sides
 * are compared where their spans from west to east overlap, so a ring of ten thousand corners takes a fraction of a second.
 */
export function crossing(ring: readonly Corner[]): [number, number] | null {
  const n = ring.length
  const sides = ring.map((from, i) => {
    const to = ring[(i + 1) % n]
    return {
      i,
      from,
      to,
      west: Math.min(from[0], to[0]),
      east: Math.max(from[0], to[0]),
      south: Math.min(from[1], to[1]),
      north: Math.max(from[1], to[1]),
    }
  })
  sides.sort((a, b) => a.west - b.west)
  let open: typeof sides = []
  for (const side of sides) {
    open = open.filter((o) => o.east >= side.west)
    for (const other of open) {
      if (other.south > side.north || other.north < side.south) continue
      const [a, b] = other.i < side.i ? [other, side] : [side, other]
      const next = b.i - a.i === 1 || (a.i === 0 && b.i === n - 1)
      if (
        next
          ? foldsBack(a.i === 0 && b.i === n - 1 && n > 2 ? [b.from, b.to, a.to] : [a.from, a.to, b.to])
          : meet(a.from, a.to, b.from, b.to)
      )
        return [a.i, b.i]
    }
    open.push(side)
  }
  return null
}

/** Which way three corners turn: positive left, negative right, 0 straight. */
const turn = (a: Corner, b: Corner, c: Corner) => (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])

/** Whether two sides have a point in common. Source: F. P. Preparata and M. I. Shamos, Computational Geometry, 1985. */
function meet(a: Corner, b: Corner, c: Corner, d: Corner): boolean {
  const [t1, t2, t3, t4] = [turn(a, b, c), turn(a, b, d), turn(c, d, a), turn(c, d, b)]
  if (((t1 > 0 && t2 < 0) || (t1 < 0 && t2 > 0)) && ((t3 > 0 && t4 < 0) || (t3 < 0 && t4 > 0))) return true
  return (t1 === 0 && on(a, b, c)) || (t2 === 0 && on(a, b, d)) || (t3 === 0 && on(c, d, a)) || (t4 === 0 && on(c, d, b))
}

const on = (a: Corner, b: Corner, p: Corner) =>
  p[0] >= Math.min(a[0], b[0]) && p[0] <= Math.max(a[0], b[0]) && p[1] >= Math.min(a[1], b[1]) && p[1] <= Math.max(a[1], b[1])

/** Whether a side runs back along the one before it. */
function foldsBack([a, b, c]: readonly Corner[]): boolean {
  return turn(a, b, c) === 0 && (b[0] - a[0]) * (c[0] - b[0]) + (b[1] - a[1]) * (c[1] - b[1]) < 0
}
