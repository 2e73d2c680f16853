import type { Directory } from './directory'
import type { NumberColumn } from './number-column'
import type { SubjectColumns } from './subject-columns'

/** Some records of each subject, by id. */
export interface SomeIds {
  people: number[]
  organisations: number[]
  premises: number[]
}

/**
 * Records that point at some others as they were last read: who or what is at some premises, and premises owned by some
 * people or organisations. When these change, what pointed at them may point elsewhere, or nowhere, from then on.
 */
export function pointing({ people, organisations, premises }: Directory, changed: SomeIds): SomeIds {
  const from = (columns: SubjectColumns, link: NumberColumn, to: SubjectColumns, ids: number[]): number[] => {
    if (ids.length === 0) return []
    const wanted = to.numbers(ids)
    const { all } = link
    const found: number[] = []
    for (let n = 0; n < all.length; n++) if (all[n] >= 0 && wanted.has(all[n])) found.push(columns.idAt(n))
    return found
  }
  return {
    people: from(people, people.at, premises, changed.premises),
    organisations: from(organisations, organisations.at, premises, changed.premises),
    premises: [
      ...from(premises, premises.ownerPerson, people, changed.people),
      ...from(premises, premises.ownerOrganisation, organisations, changed.organisations),
    ],
  }
}
