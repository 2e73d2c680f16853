import { NumberColumn } from './number-column'
import type { PremisesRecord } from '../records/premises-record'
import { SubjectColumns } from './subject-columns'
import { WordColumn } from './words'

/** Premises as columns. */
export class PremisesColumns extends SubjectColumns {
  readonly name = new WordColumn()
  readonly kind = new WordColumn()
  /** Degrees; not a number where the position is missing. */
  lat = new Float64Array(0)
  lon = new Float64Array(0)
  readonly roofArea = new NumberColumn()
  readonly yearBuilt = new NumberColumn()
  readonly ownerKind = new WordColumn()
  readonly ownerKey = new WordColumn()
  readonly ownerLives = new WordColumn()
  readonly ownerPerson = new NumberColumn()
  readonly ownerOrganisation = new NumberColumn()

  put(record: PremisesRecord): void {
    const n = this.putCommon(record)
    this.name.set(n, record.name)
    this.kind.set(n, record.kind)
    if (n >= this.lat.length) {
      this.lat = grown(this.lat, n)
      this.lon = grown(this.lon, n)
    }
    this.lat[n] = record.position?.lat ?? Number.NaN
    this.lon[n] = record.position?.lon ?? Number.NaN
    this.roofArea.set(n, record.roofArea)
    this.yearBuilt.set(n, record.yearBuilt)
    this.ownerKind.set(n, record.ownerKind)
    this.ownerKey.set(n, record.ownerKey)
    this.ownerLives.set(n, record.ownerLives)
    this.ownerPerson.set(n, this.directory.people.numberOrNone(record.ownerPerson))
    this.ownerOrganisation.set(n, this.directory.organisations.numberOrNone(record.ownerOrganisation))
  }

  /** Whether it is known where premises lie. */
  placed(n: number): boolean {
    return n < this.lat.length && !Number.isNaN(this.lat[n])
  }
}

function grown(values: Float64Array, n: number): Float64Array<ArrayBuffer> {
  const next = new Float64Array(Math.max(n + 1, Math.ceil(values.length * 1.5), 64)).fill(Number.NaN)
  next.set(values)
  return next
}
