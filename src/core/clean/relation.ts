import { fold } from './fold'
import { type Relation, RELATIONS } from '../records/relations'

/** Words a file may use for a relation, besides the relation's own name. */
const ALSO: Record<string, Relation> = {
  lead: 'prospect',
  enquirer: 'prospect',
  client: 'customer',
  'existing customer': 'customer',
  'ex customer': 'former customer',
  'past customer': 'former customer',
  staff: 'our own people',
  employee: 'our own people',
  member: 'our own people',
  vendor: 'supplier',
}

/** The relation a cell names, or null where it is empty; `undefined` where it names none we know. */
export function cleanRelation(raw: string): Relation | null | undefined {
  const word = fold(raw)
  if (word === '') return null
  return RELATIONS.find((relation) => relation === word) ?? ALSO[word]
}
