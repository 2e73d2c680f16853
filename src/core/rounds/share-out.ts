/** Somebody whose contact is shared out. People of one group stay with one colleague. */
export interface ToShare {
  person: number
  group: string
  /** The colleagues who say that they know them. */
  knows: readonly string[]
  /** The colleague who contacted them last; null where none of those did. */
  had: string | null
  /** The colleagues in whose territory they are. */
  territory: readonly string[]
}

/** How contacts are shared out: among whom, in which proportion, and whether those who know somebody, or had them before, come first. */
export interface SharingHow {
  colleagues: readonly { id: string; share: number }[]
  known: boolean
  had: boolean
  /** Whether those in whose territory somebody is come before those who had them. */
  territory?: boolean
}

export const SHARED_BECAUSE = ['knows', 'territory', 'had', 'organisation', 'share'] as const
export type SharedBecause = (typeof SHARED_BECAUSE)[number]

/**
 * Gives each person to one colleague. An organisation goes to whoever knows most of its people, then to whoever has most of them in their
 * territory, then to whoever contacted most of them last;
 * the rest are given out, the largest organisation first, each to whoever is furthest below their share. Of equals the first colleague has
 * it. The same people and colleagues give the same result.
 */
export function shareOut(people: readonly ToShare[], how: SharingHow): Map<number, { colleague: string; because: SharedBecause }> {
  const shared = new Map<number, { colleague: string; because: SharedBecause }>()
  const among = how.colleagues.filter(({ share }) => share > 0)
  if (among.length === 0) return shared
  const groups = new Map<string, ToShare[]>()
  for (const one of people) {
    const group = groups.get(one.group)
    if (group) group.push(one)
    else groups.set(one.group, [one])
  }
  const has = new Map(among.map(({ id }) => [id, 0]))
  const give = (group: readonly ToShare[], colleague: string, by: Exclude<SharedBecause, 'organisation'>) => {
    has.set(colleague, (has.get(colleague) as number) + group.length)
    for (const one of group)
      shared.set(one.person, { colleague, because: by === 'share' || isTheirs(one, colleague, by) ? by : 'organisation' })
  }
  const rest: ToShare[][] = []
  for (const group of groups.values()) {
    const wish = (by: Wished) => mostOf(group, among, by, has)
    const [by, colleague] = [
      ['knows', how.known ? wish('knows') : null] as const,
      ['territory', how.territory ? wish('territory') : null] as const,
      ['had', how.had ? wish('had') : null] as const,
    ].find(([, own]) => own !== null) ?? ['share', null]
    if (colleague === null) rest.push(group)
    else give(group, colleague, by)
  }
  const whole = among.reduce((sum, { share }) => sum + share, 0)
  for (const group of rest.sort((a, b) => b.length - a.length)) {
    const below = ({ id, share }: { id: string; share: number }) => (people.length * share) / whole - (has.get(id) as number)
    give(group, among.reduce((most, own) => (below(own) > below(most) ? own : most)).id, 'share')
  }
  return shared
}

type Wished = 'knows' | 'territory' | 'had'

const isTheirs = (one: ToShare, colleague: string, by: Wished): boolean =>
  by === 'had' ? one.had === colleague : one[by].includes(colleague)

/** The colleague who has most of a group by something; of equals in a territory the one with the fewest for their share, else the first. */
function mostOf(group: readonly ToShare[], among: SharingHow['colleagues'], by: Wished, has: ReadonlyMap<string, number>): string | null {
  let most: string | null = null
  let times = 0
  const fewer = (id: string) => {
    const of = (one: string) => (has.get(one) as number) / (among.find((own) => own.id === one)?.share ?? 1)
    return by === 'territory' && most !== null && of(id) < of(most)
  }
  for (const { id } of among) {
    const n = group.filter((one) => isTheirs(one, id, by)).length
    if (n > times || (n > 0 && n === times && fewer(id))) [most, times] = [id, n]
  }
  return most
}

/** How many each colleague has, and why. */
export function sharesOf(
  shared: ReadonlyMap<number, { colleague: string; because: SharedBecause }>,
): Map<string, Record<SharedBecause, number> & { people: number }> {
  const shares = new Map<string, Record<SharedBecause, number> & { people: number }>()
  for (const { colleague, because } of shared.values()) {
    const own = shares.get(colleague) ?? { people: 0, knows: 0, territory: 0, had: 0, organisation: 0, share: 0 }
    own.people++
    own[because]++
    shares.set(colleague, own)
  }
  return shares
}
