import { around } from 'geokdbush'
import KDBush from 'kdbush'
import { array, type InferType, mixed, number, object, string } from 'yup'
import { LONGEST } from '../areas/shape'
import { metresApart } from '../clean/premises'
import type { Bitset } from '../columns/bitset'
import type { Directory } from '../columns/directory'
import type { Subject } from '../records/subject'
import type { SubjectColumns } from '../columns/subject-columns'
import type { Answer, AskedField, CriterionKind } from './kind'
import { membersOf } from './list'
import { saying } from './wording'
import { quantityText, type UnitOf, unitsOf } from '../text/units'

interface Relation {
  /** The subjects of lists that can ask, and the subject of the list that is named. */
  asked: readonly Subject[]
  named: Subject
  text: string
}

/** How a record can stand to those of another list. */
export const HOW = {
  'works at': { asked: ['person'], named: 'organisation', text: 'works at an organisation of' },
  employs: { asked: ['organisation'], named: 'person', text: 'employs somebody of' },
  owns: { asked: ['person', 'organisation'], named: 'premises', text: 'owns premises of' },
  occupies: { asked: ['person', 'organisation'], named: 'premises', text: 'is at premises of' },
  'owned by organisations': { asked: ['premises'], named: 'organisation', text: 'is owned by an organisation of' },
  'owned by people': { asked: ['premises'], named: 'person', text: 'is owned by somebody of' },
  'occupied by organisations': { asked: ['premises'], named: 'organisation', text: 'is the address of an organisation of' },
  'occupied by people': { asked: ['premises'], named: 'person', text: 'is the address of somebody of' },
  neighbours: { asked: ['person', 'organisation', 'premises'], named: 'premises', text: 'is at neighbours of' },
} as const satisfies Record<string, Relation>
export type How = keyof typeof HOW
export const HOWS = Object.keys(HOW) as How[]

const schema = object({
  kind: string()
    .oneOf(['related'] as const)
    .required(),
  how: mixed<How>().oneOf(HOWS).required(),
  list: object({ id: number().integer().positive('choose a list').required(), name: string().required() }).required(),
  /** Works at: only with a role that says any of these, by their stems. */
  role: array(string().trim().max(80).required()).max(40).required(),
  /** Neighbours: within so many metres. */
  metres: number().min(1).max(LONGEST).nullable().defined(),
  /** The unit that was told in; metres where it is not said. */
  unit: string()
    .oneOf(unitsOf('m') as UnitOf<'m'>[])
    .optional(),
})
  .noUnknown()
  .test('metres', 'say within how many metres', (v) => v.how !== 'neighbours' || v.metres !== null)
export type RelatedCriterion = InferType<typeof schema>

/**
 * Stands to a record of another list in some way: works at one of its organisations, owns or is at one of its premises, is
 * a neighbour of one. Yes when any related record is on that list; unknown when there is no related record at all. Neighbours
 * are other premises within so many metres, so only a missing position is unknown. With a role: whoever works at one
 * of them and has no role is unknown.
 */
export const related: CriterionKind<RelatedCriterion, 'any'> = {
  name: 'Linked to a list',
  synonyms: ['works at', 'owns', 'neighbours', 'account list', 'company list', 'related', 'colleagues', 'employees of'],
  inName: 'sentence',
  single: false,
  probe: null,
  named: (c, call) => ({ ...c, list: call(c.list, { what: 'list', edition: null, of: HOW[c.how].named }) }),
  of: 'any',
  group: 'lists',
  schema,
  blank: { kind: 'related', how: 'works at', list: { id: 0, name: '' }, role: [], metres: null },
  sentence: ({ how, list, role, metres, unit }) => [
    ...(how === 'neighbours'
      ? [{ text: 'is within' }, { chip: quantityText('m', metres ?? 0, unit), field: 'metres' }, { text: 'of premises of' }]
      : [{ text: HOW[how].text }]),
    { chip: list.name || 'which list?', field: 'list' },
    ...(how === 'works at' && role.length > 0 ? [{ text: 'as' }, { chip: role.join(', '), field: 'role' }] : []),
  ],
  asks: ({ how }): AskedField[] => (how === 'works at' ? ['organisation', 'list'] : how === 'neighbours' ? ['position', 'list'] : ['list']),
  varies: () => null,
  // The reference needs all records and stands in the tests, as the relational definition.
  verdict: () => {
    throw new Error('a line that crosses subjects has no verdict on one record alone')
  },
  evaluate(c, columns, moment) {
    const on = membersOf({ list: c.list, edition: null }, moment).set
    const { directory } = columns
    const { people, organisations, premises } = directory
    switch (c.how) {
      case 'works at':
        return withRole(
          c,
          byLink(columns, (n) => people.employer.at(n), organisations, on),
          directory,
        )
      case 'employs':
        return byMany(columns, people, (n) => people.employer.at(n), on)
      case 'occupies':
        return byLink(columns, (n) => (columns === people ? people.at : organisations.at).at(n), premises, on)
      case 'owns':
        return byMany(columns, premises, (n) => (columns === people ? premises.ownerPerson : premises.ownerOrganisation).at(n), on)
      case 'owned by organisations':
        return byLink(columns, (n) => premises.ownerOrganisation.at(n), organisations, on)
      case 'owned by people':
        return byLink(columns, (n) => premises.ownerPerson.at(n), people, on)
      case 'occupied by organisations':
        return byMany(columns, organisations, (n) => organisations.at.at(n), on)
      case 'occupied by people':
        return byMany(columns, people, (n) => people.at.at(n), on)
      case 'neighbours':
        return neighbours(columns, directory, on.and(premises.live), c.metres as number)
    }
  },
}

/** Each record points at one other: yes where that is on, unknown where there is none that is live. */
function byLink(columns: SubjectColumns, link: (n: number) => number, others: SubjectColumns, on: Bitset): Answer {
  return columns.live.split((n) => {
    const other = link(n)
    return other < 0 || !others.live.has(other) ? 2 : on.has(other) ? 1 : 0
  })
}

/** Others point at each record: yes where any of them is on, unknown where there is none. */
function byMany(columns: SubjectColumns, others: SubjectColumns, link: (n: number) => number, on: Bitset): Answer {
  const said = new Uint8Array(columns.size)
  others.live.forEach((n) => {
    const at = link(n)
    if (at >= 0) said[at] |= on.has(n) ? 3 : 1
  })
  return columns.live.split((n) => (said[n] === 3 ? 1 : said[n] === 1 ? 0 : 2))
}

function withRole({ role }: RelatedCriterion, answer: Answer, { people }: Directory): Answer {
  if (role.length === 0) return answer
  const asked = saying(people.role, role)
  const said = answer.yes.split((n) => {
    const code = people.role.codeAt(n)
    return code < 0 ? 2 : asked[code]
  })
  return { yes: said.yes, unknown: answer.unknown.or(said.unknown) }
}

/** How far the distances of the index, along a sphere, can be from ours: it narrows, and ours decide. */
const SLACK = 1.02

/** Premises within so many metres of other ones that are on, and whoever is at them. By the nearest others in a k-d tree, so that a crowded place costs no more than an empty one. */
function neighbours(columns: SubjectColumns, { premises, people, organisations }: Directory, on: Bitset, metres: number): Answer {
  const placed = on.toArray().filter((n) => premises.placed(n))
  const index = new KDBush(placed.length)
  for (const n of placed) index.add(premises.lon[n], premises.lat[n])
  index.finish()
  const apart = (n: number, other: number) =>
    metresApart({ lat: premises.lat[n], lon: premises.lon[n] }, { lat: premises.lat[other], lon: premises.lon[other] })
  const near = (n: number) => {
    if (placed.length === 0) return false
    const within = (most: number) =>
      around<number>(index, premises.lon[n], premises.lat[n], most, (metres * SLACK) / 1000)
        .map((i) => placed[i])
        .filter((other) => other !== n)
    // The nearest is itself, where it is on.
    const [nearest] = within(2)
    if (nearest === undefined) return false
    const distance = apart(n, nearest)
    if (distance <= metres) return true
    // Only at the very edge may another that is farther along the sphere be nearer by ours.
    return distance <= metres * SLACK * SLACK && within(Number.POSITIVE_INFINITY).some((other) => apart(n, other) <= metres)
  }
  const said = new Uint8Array(premises.size).fill(2)
  premises.live.forEach((n) => {
    if (premises.placed(n)) said[n] = near(n) ? 1 : 0
  })
  if (columns === premises) return columns.live.split((n) => said[n])
  const at = columns === people ? people.at : organisations.at
  return columns.live.split((n) => {
    const place = at.at(n)
    return place < 0 ? 2 : said[place]
  })
}
