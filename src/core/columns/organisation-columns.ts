import { Bitset } from './bitset'
import { NumberColumn } from './number-column'
import type { OrganisationRecord } from '../records/organisation-record'
import { SubjectColumns } from './subject-columns'
import { WordColumn } from './words'

/** Organisations as columns. */
export class OrganisationColumns extends SubjectColumns {
  readonly name = new WordColumn()
  readonly industry = new WordColumn()
  readonly headCount = new NumberColumn()
  readonly domain = new WordColumn()
  /** Record number of the premises at its address. */
  readonly at = new NumberColumn()
  private counted: { version: number; counts: Int32Array } | null = null

  put(record: OrganisationRecord): void {
    const n = this.putCommon(record)
    this.name.set(n, record.name)
    this.industry.set(n, record.industry)
    this.headCount.set(n, record.headCount)
    this.domain.set(n, record.domain)
    this.at.set(n, this.directory.premises.numberOrNone(record.premises))
  }

  /** How many live people each organisation has, by record number. Counted once until people change. */
  people(): Int32Array {
    const { people } = this.directory
    if (this.counted?.version !== people.version || this.counted.counts.length !== this.size) {
      const counts = new Int32Array(this.size)
      people.live.forEach((n) => {
        const at = people.employer.at(n)
        if (at >= 0) counts[at]++
      })
      this.counted = { version: people.version, counts }
    }
    return this.counted.counts
  }

  /** The organisations that people of a set work at. */
  employing(people: Bitset): Bitset {
    const set = new Bitset(this.size)
    people.forEach((n) => {
      const at = this.directory.people.employer.at(n)
      if (at >= 0) set.add(at)
    })
    return set
  }
}
