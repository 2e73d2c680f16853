import { fold } from '../clean/fold'
import type { SubjectColumns } from '../columns/subject-columns'
import type { Per } from './line'

/**
 * What tells the groups of a limit apart, by record number; null where a record has no such value. A household is a house
 * on a street of a postcode, or of a town where there is no postcode.
 */
export function groupsBy(per: Exclude<Per, 'all'>, columns: SubjectColumns): (n: number) => number | string | null {
  const { people, organisations, premises } = columns.directory
  const orNull = (value: number) => (value < 0 ? null : value)
  const postcodes = columns.postcode.derived(close)
  const postcodeOf = (n: number) => {
    const code = columns.postcode.codeAt(n)
    return code < 0 ? null : postcodes[code]
  }
  switch (per) {
    case 'organisation':
      if (columns === people) return (n) => orNull(people.employer.at(n))
      return (n) => (columns === premises ? orNull(premises.ownerOrganisation.at(n)) : n)
    case 'premises':
      if (columns === premises) return (n) => n
      return (n) => orNull((columns === people ? people.at : organisations.at).at(n))
    case 'postcode':
      return postcodeOf
    case 'household': {
      const streets = columns.street.derived(fold)
      return (n) => {
        const [street, house] = [columns.street.codeAt(n), columns.house.at(n)]
        const place = postcodeOf(n) ?? columns.town.get(n)
        return street < 0 || house < 0 || place === null ? null : `${house}|${streets[street]}|${place}`
      }
    }
  }
}

const close = (postcode: string) => fold(postcode).replaceAll(' ', '')
