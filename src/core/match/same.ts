/** What a row offers to match on, each in its comparable form; null where the row does not have it. */
export interface MatchKeys {
  outsideId: string | null
  emails: string[]
  phones: string[]
  /** Folded given and family name; null where the name is missing or only an initial. */
  name: string | null
  family: string | null
  organisation: string | null
  address: string | null
}

/** A record that shares at least one key with the row. */
export interface Candidate {
  id: number
  outsideId: string | null
  emails: string[]
  phones: string[]
  name: string | null
  family: string | null
  organisation: string | null
  address: string | null
  /** Outside ids and names of records that were merged into this one. */
  otherIds?: string[]
  otherNames?: string[]
}

export type Match =
  | { is: 'new' }
  | { is: 'same'; id: number; by: string }
  | {
      is: 'in doubt'
      ids: number[]
      why: string /** Only because the name is too short to tell, so that more than keys may decide. */
      openly?: true
    }

/**
 * Whether a row is somebody we know. Same: the outside id; or the email or phone with the same name; or the name with
 * the same organisation or address. A shared email or phone under another name is another person. In doubt: keys that
 * point at different records, or a shared email or phone where the family name is the same and the rest cannot tell.
 */
export function match(row: MatchKeys, candidates: Candidate[]): Match {
  const points: { id: number; by: string }[] = []
  const maybe: number[] = []
  for (const c of candidates) {
    const sameName = row.name !== null && (row.name === c.name || (c.otherNames ?? []).includes(row.name))
    const shares = row.emails.some((e) => c.emails.includes(e)) ? 'email' : row.phones.some((p) => c.phones.includes(p)) ? 'phone' : null
    const by = hasId(c, row.outsideId)
      ? 'outside id'
      : shares && sameName
        ? `${shares} and name`
        : sameName && row.organisation !== null && row.organisation === c.organisation
          ? 'name and organisation'
          : sameName && row.address !== null && row.address === c.address
            ? 'name and address'
            : null
    if (by) points.push({ id: c.id, by })
    else if (shares && (row.name === null || c.name === null) && row.family === c.family) maybe.push(c.id)
  }
  const conflicting = (id: number) => {
    const candidate = candidates.find((c) => c.id === id)
    return row.outsideId !== null && candidate !== undefined && candidate.outsideId !== null && !hasId(candidate, row.outsideId)
  }
  const ids = [...new Set(points.map((p) => p.id))]
  if (ids.length > 1) return { is: 'in doubt', ids, why: `its ${points.map((p) => p.by).join(' and its ')} point at different people` }
  if (ids.length === 1) {
    if (conflicting(ids[0])) return { is: 'in doubt', ids, why: `the ${points[0].by} are those of somebody with another outside id` }
    return { is: 'same', id: ids[0], by: points[0].by }
  }
  if (maybe.length > 0)
    return {
      is: 'in doubt',
      ids: [...new Set(maybe)],
      why: 'it shares an email or phone, and the name cannot tell whether it is the same person',
      openly: true,
    }
  return { is: 'new' }
}

function hasId(candidate: Candidate, id: string | null): boolean {
  return id !== null && (candidate.outsideId === id || (candidate.otherIds ?? []).includes(id))
}
