import { OrganisationColumns } from './organisation-columns'
import { PeopleColumns } from './people-columns'
import { PremisesColumns } from './premises-columns'
import type { Subject } from '../records/subject'

/** All three subjects as columns, with the numbers by which records of one point at those of another. */
export class Directory {
  readonly organisations = new OrganisationColumns(this)
  readonly premises = new PremisesColumns(this)
  readonly people = new PeopleColumns(this)

  of<S extends Subject>(subject: S): ColumnsOf[S]
  of(subject: Subject): ColumnsOf[Subject] {
    return subject === 'person' ? this.people : subject === 'organisation' ? this.organisations : this.premises
  }

  /** Grows with every change of any subject. */
  get version(): number {
    return this.people.version + this.organisations.version + this.premises.version
  }
}

export interface ColumnsOf {
  person: PeopleColumns
  organisation: OrganisationColumns
  premises: PremisesColumns
}
