import { describe, expect, test } from 'vitest'
import { FIELD } from '@/core/clean/standard-fields'
import { Directory } from '@/core/columns/directory'
import { Answers, validCriterion } from '@/core/criteria/registry'
import { countBy, groupRows } from '@/core/facets/group'
import { FACETS, facetOf } from '@/core/facets/registry'
import type { OrganisationRecord } from '@/core/records/organisation-record'
import type { Contact, PersonRecord } from '@/core/records/person-record'
import type { PremisesRecord } from '@/core/records/premises-record'
import { SUBJECTS, type Subject } from '@/core/records/subject'
import { ASOF, blank, blankOrganisation as noOrganisation, blankPremises as noPremises, DAY, MOMENT } from '../../support/people'

interface World {
  person?: Partial<PersonRecord>
  organisation?: Partial<OrganisationRecord>
  premises?: Partial<PremisesRecord>
}
type Told = [world: World, label: string | null]

const person = (of: Partial<PersonRecord>, label: string | null): Told => [{ person: of }, label]
const organisation = (of: Partial<OrganisationRecord>, label: string | null): Told => [{ organisation: of }, label]
const premises = (of: Partial<PremisesRecord>, label: string | null): Told => [{ premises: of }, label]
const field = (id: number, value: string) => ({ custom: { [id]: value } })
const contact = (daysAgo: number, of: Partial<Contact> = {}): Contact => ({ at: ASOF - daysAgo * DAY, channel: 'phone', by: 'ines', ...of })
const reached = (...channels: ('email' | 'phone' | 'post')[]) => ({
  addresses: channels.map((channel, i) => ({ id: i + 1, channel, usable: true, failedAt: null, suppressions: [] })),
})

const OF_ORGANISATIONS: Record<string, Told[]> = {
  industry: [organisation({ industry: 'school' }, 'school'), organisation({}, null)],
  'industry-code': [organisation(field(FIELD.industryCode, 'NAICS 61'), 'NAICS 61'), organisation({}, null)],
  'head-count': [
    organisation({ headCount: 1 }, '1 to 9'),
    organisation({ headCount: 49 }, '10 to 49'),
    organisation({ headCount: 50 }, '50 to 249'),
    organisation({ headCount: 1000 }, '1,000 or more'),
    organisation({}, null),
  ],
  'legal-kind': [organisation(field(FIELD.legalKind, 'charity'), 'charity'), organisation({}, null)],
  seat: [organisation(field(FIELD.seat, 'site'), 'site'), organisation({}, null)],
}

const OF_PREMISES: Record<string, Told[]> = {
  'premises-kind': [premises({ kind: 'warehouse' }, 'warehouse'), premises({}, null)],
  roof: [
    premises({ roofArea: 99.9 }, 'under 100 m²'),
    premises({ roofArea: 100 }, '100 to 249 m²'),
    premises({ roofArea: 2500 }, '2,500 m² or more'),
    premises({}, null),
  ],
  built: [
    premises({ yearBuilt: 1849 }, 'before 1850'),
    premises({ yearBuilt: 1945 }, '1945 to 1979'),
    premises({ yearBuilt: 2000 }, '2000 or later'),
    premises({}, null),
  ],
  'owner-kind': [premises({ ownerKind: 'trust' }, 'trust'), premises({}, null)],
  'owner-lives': [premises({ ownerLives: 'abroad' }, 'abroad'), premises({}, null)],
  worth: [
    premises(field(FIELD.value, '199999.99'), 'under 200,000'),
    premises(field(FIELD.value, '1000000'), '1,000,000 or more'),
    premises({}, null),
  ],
  equity: [
    premises({ custom: { [FIELD.value]: '100000', [FIELD.loan]: '100001' } }, 'under 0 %'),
    premises({ custom: { [FIELD.value]: '100000', [FIELD.loan]: '60000' } }, '40 to 59 %'),
    premises({ custom: { [FIELD.value]: '100000', [FIELD.loan]: '0' } }, '80 % or more'),
    premises({ custom: { [FIELD.value]: '100000' } }, null),
  ],
  likely: [premises(field(FIELD.likely, 'possible'), 'possible'), premises({}, null)],
  listed: [premises(field(FIELD.listed, 'yes'), 'yes'), premises({}, null)],
}

const PLACES = (
  of: (told: { town?: string; county?: string; postcode?: string }, label: string | null) => Told,
): Record<string, Told[]> => ({
  town: [of({ town: 'Thornmouth' }, 'Thornmouth'), of({}, null)],
  county: [of({ county: 'Pellow' }, 'Pellow'), of({}, null)],
  district: [of({ postcode: 'PW12 3CD' }, 'PW12'), of({}, null)],
})

/** Records, and the group that each is counted in by a facet; null is of those without a value. Bands with both of their ends. */
const EXAMPLES: Record<Subject, Record<string, Told[]>> = {
  person: {
    role: [person({ role: 'Bursar' }, 'Bursar'), person({}, null)],
    level: [person({ role: 'Head of Estates' }, 'head'), person({}, null)],
    function: [person({ role: 'Finance Director' }, 'finance'), person({}, null)],
    organisation: [organisation({ name: 'North School' }, 'North School')],
    relation: [person({ relation: 'in talks' }, 'in talks'), person({}, null)],
    part: [person(field(FIELD.part, 'decides'), 'decides'), person({}, null)],
    acquaintance: [person(field(FIELD.acquaintance, 'met'), 'met'), person({}, null)],
    holder: [person(field(FIELD.holder, 'Tam'), 'Tam'), person({}, null)],
    languages: [person(field(FIELD.languages, 'Welsh; English'), 'Welsh'), person({}, null)],
    'in-role': [
      person(field(FIELD.inRoleSince, '2025-07-01'), 'under a year'),
      person(field(FIELD.inRoleSince, '2025-06-01'), '1 to 3 years'),
      person(field(FIELD.inRoleSince, '2010-01-01'), '10 years or more'),
      person({}, null),
    ],
    reach: [person({}, 'none'), person(reached('email'), 'one'), person(reached('email', 'phone', 'post'), 'all three')],
    'last contact': [
      person({}, 'never'),
      person({ contacts: [contact(30)] }, 'within a month'),
      person({ contacts: [contact(31)] }, '1 to 3 months ago'),
      person({ contacts: [contact(800), contact(100)] }, '3 to 6 months ago'),
      person({ contacts: [contact(731)] }, 'longer ago'),
    ],
    contacts: [
      person({}, 'never'),
      person({ contacts: [contact(1)] }, 'once'),
      person({ contacts: [contact(1, { channel: 'met' })] }, 'never'),
      person({ contacts: Array.from({ length: 5 }, (_, i) => contact(i)) }, '5 times or more'),
    ],
    changed: [person({ changedAt: ASOF - 400 * DAY }, '1 to 2 years ago'), person({ changedAt: null }, null)],
    ...PLACES((told, label) => person(told, label)),
    ...OF_ORGANISATIONS,
    ...OF_PREMISES,
  },
  organisation: {
    ...OF_ORGANISATIONS,
    ...PLACES((told, label) => organisation(told, label)),
    people: [organisation({}, 'none'), [{ organisation: {}, person: { organisation: 1 } }, '1']],
  },
  premises: { ...OF_PREMISES, ...PLACES((told, label) => premises(told, label)) },
}

/** A directory of what is told; of a list of people, somebody works there, or is at the premises. */
function directoryOf(subject: Subject, world: World): Directory {
  const made = new Directory()
  if (world.organisation) made.organisations.put({ ...noOrganisation, ...world.organisation })
  if (world.premises) made.premises.put({ ...noPremises, ...world.premises })
  if (subject === 'person' || world.person)
    made.people.put({
      ...blank,
      ...(world.organisation ? { organisation: 1 } : {}),
      ...(world.premises ? { premises: 1 } : {}),
      ...world.person,
    })
  return made
}

test.each(SUBJECTS)('every facet of %s has an example, and every example a facet', (subject) => {
  expect(Object.keys(EXAMPLES[subject]).sort()).toEqual(Object.keys(FACETS[subject]).sort())
})

describe.each(SUBJECTS.flatMap((subject) => Object.entries(EXAMPLES[subject]).map(([key, told]) => ({ subject, key, told }))))(
  '$subject: $key',
  ({ subject, key, told }) => {
    test.each(told.map(([world, label]): [string, string, World] => [String(label), JSON.stringify(world), world]))(
      '%s: %s',
      (label, _, world) => {
        const directory = directoryOf(subject, world)
        const values = facetOf(subject, key).values(directory, MOMENT)
        const groups = countBy(directory.of(subject).live, values)
        const rows = groupRows(groups, values.labels, true)
        expect([rows, groups.unknown]).toEqual(label === 'null' ? [[], 1] : [[{ label, count: 1 }], 0])
        const criterion = facetOf(subject, key).criterion?.(label)
        if (label === 'null' || !criterion) return
        // What a group is called, asked as a line, finds just those who are in it.
        expect(new Answers(directory).of(validCriterion(criterion), MOMENT, subject).yes.count()).toBe(1)
      },
    )
  },
)
