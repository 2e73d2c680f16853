/** Somebody whose contact is shared out. People of one group stay with one colleague. */
export interface ToShare {
  person: number
  group: string
  /** The colleagues who say that they know them. */
  knows: readonly string[]
  /** The colleague who contacted them last; null where none of those did. */
  had: string | null
}

/** How contacts are shared out: among whom, in which proportion, and whether those who know somebody, or had them before, come first. */
export interface SharingHow {
  colleagues: readonly { id: string; share: number }[]
  known: boolean
  had: boolean
}

export const SHARED_BECAUSE = ['knows', 'had', 'organisation', 'share'] as const
export type SharedBecause = (typeof SHARED_BECAUSE)[number]

/**
 * Gives each person to one colleague. An organisation goes to whoever knows most of its people, then to whoever contacted most of them last;
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
  const give = (group: readonly ToShare[], colleague: string, by: 'knows' | 'had' | 'share') => {
    has.set(colleague, (has.get(colleague) as number) + group.length)
    for (const one of group)
      shared.set(one.person, { colleague, because: by === 'share' || isTheirs(one, colleague, by) ? by : 'organisation' })
  }
  const rest: ToShare[][] = []
  for (const group of groups.values()) {
    const wish = (by: 'knows' | 'had') => mostOf(group, among, by)
    const [by, colleague] = [['knows', how.known ? wish('knows') : null] as const, ['had', how.had ? wish('had') : null] as const].find(
      ([, own]) => own !== null,
    ) ?? ['share', null]
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

const isTheirs = ({ knows, had }: ToShare, colleague: string, by: 'knows' | 'had'): boolean =>
  by === 'knows' ? knows.includes(colleague) : had === colleague

function mostOf(group: readonly ToShare[], among: SharingHow['colleagues'], by: 'knows' | 'had'): string | null {
  let most: string | null = null
  let times = 0
  for (const { id } of among) {
    const n = group.filter((one) => isTheirs(one, id, by)).length
    if (n > times) [most, times] = [id, n]
  }
  return most
}

/** How many each colleague has, and why. */
export function sharesOf(
  shared: ReadonlyMap<number, { colleague: string; because: SharedBecause }>,
): Map<string, Record<SharedBecause, number> & { people: number }> {
  const shares = new Map<string, Record<SharedBecause, number> & { people: number }>()
  for (const { colleague, because } of shared.values()) {
    const own = shares.get(colleague) ?? { people: 0, knows: 0, had: 0, organisation: 0, share: 0 }
    own.people++
    own[because]++
    shares.set(colleague, own)
  }
  return shares
}
