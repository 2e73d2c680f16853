import type { RecordView } from './list-views'
import type { PersonView } from './record-views'

/** A person as a row of the table of records; what a table has no column for comes under the name. */
export const personRecord = (person: PersonView): RecordView => ({
  id: person.id,
  title: person.name,
  under: [person.role, person.organisation].filter(Boolean).join(', ') || 'no role or organisation',
  href: `/directory/people/${person.id}`,
  person,
  ...(person.because ? { because: person.because } : {}),
})
