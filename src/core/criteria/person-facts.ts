import { ACQUAINTANCE, FIELD, PARTS } from '../clean/standard-fields'
import { type AnyCriterion, anyOf } from './any-of'
import { type Fact, fieldFact, wordFact } from './facts'
import { saysWords } from './says-words'
import { since } from './since'
import type { PersonRecord } from '../records/person-record'
import type { CriterionKind } from './kind'
import { lifted } from './lifted'

const common = { of: 'person', group: 'who they are' } as const

/** How long somebody has had their role. */
export const inRole = since({
  ...common,
  kind: 'in-role',
  name: 'Time in the role',
  synonyms: ['years in current position', 'tenure', 'new in role', 'job change', 'time in job', 'started'],
  inName: { before: 'in the role', after: '' },
  says: 'time in the role is',
  between: 'role began',
  fact: fieldFact<'person'>(FIELD.inRoleSince),
})
/** How long somebody has been at their organisation. */
export const joined = since({
  ...common,
  kind: 'joined',
  name: 'Time at the organisation',
  synonyms: ['years at company', 'tenure', 'time at company', 'new hire', 'joined'],
  inName: { before: 'there', after: '' },
  says: 'time at the organisation is',
  between: 'first day at the organisation was',
  fact: fieldFact<'person'>(FIELD.joined),
})
export const earlier = anyOf({
  ...common,
  kind: 'earlier',
  name: 'Earlier employers',
  synonyms: ['past company', 'previous company', 'former employer', 'worked at', 'alumni'],
  inName: { before: 'once at', after: '' },
  says: 'earlier employer was',
  known: 'earlier',
  several: true,
  fact: fieldFact<'person'>(FIELD.earlier),
})
export const languages = anyOf({
  ...common,
  kind: 'languages',
  name: 'Languages',
  synonyms: ['language', 'speaks', 'profile language'],
  inName: { before: 'speaking', after: '' },
  says: 'language is',
  known: 'languages',
  several: true,
  fact: fieldFact<'person'>(FIELD.languages),
})
export const about = saysWords({
  ...common,
  kind: 'about',
  name: 'Words of the profile',
  synonyms: ['keyword', 'keywords', 'skills', 'biography', 'bio', 'summary', 'about'],
  inName: { before: 'saying', after: '' },
  says: 'profile says',
  hint: 'Of the profile, the role and earlier employers. A phrase stands in its order. Whoever has no profile is unknown where neither of the others says it.',
  fact: fieldFact<'person'>(FIELD.about),
  also: [
    wordFact<'person'>(
      'role',
      (p) => p.role,
      (columns) => columns.role,
    ),
    fieldFact<'person'>(FIELD.earlier),
  ],
})
export const part = anyOf({
  ...common,
  kind: 'part',
  name: 'Part in a decision',
  synonyms: ['decision maker', 'buying role', 'buyer', 'influencer', 'champion', 'authority'],
  inName: { before: '', after: '' },
  single: true,
  says: 'part in a decision is:',
  all: PARTS,
  fact: fieldFact<'person'>(FIELD.part),
})
export const acquaintance = anyOf({
  ...common,
  kind: 'acquaintance',
  name: 'How well we know them',
  synonyms: ['relationship', 'connection', 'warmth', 'acquaintance', 'network'],
  inName: { before: '', after: '' },
  single: true,
  says: 'acquaintance with us is:',
  all: ACQUAINTANCE,
  fact: fieldFact<'person'>(FIELD.acquaintance),
})
export const holder = anyOf({
  ...common,
  kind: 'holder',
  name: 'Whose they are',
  synonyms: ['owner', 'account owner', 'assigned to', 'sales rep', 'contact owner', 'held by', 'territory'],
  inName: { before: 'held by', after: '' },
  single: true,
  says: 'record is held by',
  known: 'holders',
  fact: fieldFact<'person'>(FIELD.holder),
})

/** Country, region and district stand in other fields of people, organisations and premises. */
const placeFact = (person: number, organisation: number, premises: number): Fact<'any'> => ({
  ...wordFact<'any'>(
    'county',
    (record) => record.custom[person] ?? record.custom[organisation] ?? record.custom[premises] ?? null,
    () => undefined as never,
  ),
  asks: `custom:${person}`,
  column: (columns) =>
    columns.custom.get(
      columns === columns.directory.people ? person : columns === columns.directory.organisations ? organisation : premises,
    ),
})

/** A person of whom it is not known themselves is where their organisation is. */
function orWhereTheyWork<K extends string>(kind: CriterionKind<AnyCriterion<K>, 'any'>): CriterionKind<AnyCriterion<K>, 'any'> {
  return {
    ...kind,
    verdict(criterion, record, moment) {
      const own = kind.verdict(criterion, record, moment)
      const { employer } = record as PersonRecord
      return own === 'unknown' && employer ? kind.verdict(criterion, employer, moment) : own
    },
    evaluate(criterion, columns, moment) {
      const own = kind.evaluate(criterion, columns, moment)
      const { directory } = columns
      if (columns !== directory.people) return own
      const theirs = lifted(directory, 'person', 'organisation', kind.evaluate(criterion, directory.organisations, moment))
      return { yes: own.yes.or(own.unknown.and(theirs.yes)), unknown: own.unknown.and(theirs.unknown) }
    },
  }
}

const where = { of: 'any', group: 'where' } as const
export const country = orWhereTheyWork<'country'>(
  anyOf({
    ...where,
    kind: 'country',
    name: 'Country',
    synonyms: ['nation', 'geography', 'location'],
    inName: { before: 'in', after: '' },
    single: true,
    says: 'country is',
    known: 'countries',
    fact: placeFact(FIELD.country, FIELD.orgCountry, FIELD.premisesCountry),
  }),
)
export const region = orWhereTheyWork<'region'>(
  anyOf({
    ...where,
    kind: 'region',
    name: 'Region',
    synonyms: ['geography', 'location', 'state', 'metro'],
    inName: { before: 'in', after: '' },
    single: true,
    says: 'region is',
    known: 'regions',
    fact: placeFact(FIELD.region, FIELD.orgRegion, FIELD.premisesRegion),
  }),
)
export const district = orWhereTheyWork<'district'>(
  anyOf({
    ...where,
    kind: 'district',
    name: 'District',
    synonyms: ['borough', 'neighbourhood', 'council', 'location'],
    inName: { before: 'in', after: '' },
    single: true,
    says: 'district is',
    known: 'districts',
    fact: placeFact(FIELD.district, FIELD.orgDistrict, FIELD.premisesDistrict),
  }),
)
