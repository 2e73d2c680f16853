import { ACQUAINTANCE, FIELD, PARTS } from '../clean/standard-fields'
import { anyOf, type Fact, fieldFact, saysWords, since, wordFact } from './facts'

const common = { of: 'person', group: 'who they are' } as const

/** How long somebody has had their role. */
export const inRole = since({ ...common, kind: 'in-role', name: 'Time in the role', says: 'time in the role is', between: 'role began', fact: fieldFact<'person'>(FIELD.inRoleSince) })
/** How long somebody has been at their organisation. */
export const joined = since({ ...common, kind: 'joined', name: 'Time at the organisation', says: 'time at the organisation is', between: 'first day at the organisation was', fact: fieldFact<'person'>(FIELD.joined) })
export const earlier = anyOf({ ...common, kind: 'earlier', name: 'Earlier employers', says: 'earlier employer was', known: 'earlier', several: true, fact: fieldFact<'person'>(FIELD.earlier) })
export const languages = anyOf({ ...common, kind: 'languages', name: 'Languages', says: 'language is', known: 'languages', several: true, fact: fieldFact<'person'>(FIELD.languages) })
export const about = saysWords({ ...common, kind: 'about', name: 'Words of the profile', says: 'profile says', hint: 'A phrase stands in its order. Whoever has no profile is unknown.', fact: fieldFact<'person'>(FIELD.about) })
export const part = anyOf({ ...common, kind: 'part', name: 'Part in a decision', says: 'part in a decision is:', all: PARTS, fact: fieldFact<'person'>(FIELD.part) })
export const acquaintance = anyOf({ ...common, kind: 'acquaintance', name: 'How well we know them', says: 'acquaintance with us is:', all: ACQUAINTANCE, fact: fieldFact<'person'>(FIELD.acquaintance) })
export const holder = anyOf({ ...common, kind: 'holder', name: 'Whose they are', says: 'record is held by', known: 'holders', fact: fieldFact<'person'>(FIELD.holder) })

/** Country, region and district are those of the record itself: a person's own, an organisation's, or those of premises. */
const placeFact = (person: number, organisation: number, premises: number): Fact<'any'> => ({
  ...wordFact<'any'>('county', (record) => record.custom[person] ?? record.custom[organisation] ?? record.custom[premises] ?? null, () => undefined as never),
  asks: `custom:${person}`,
  column: (columns) => columns.custom.get(columns === columns.directory.people ? person : columns === columns.directory.organisations ? organisation : premises),
})

const where = { of: 'any', group: 'where' } as const
export const country = anyOf({ ...where, kind: 'country', name: 'Country', says: 'country is', known: 'countries', fact: placeFact(FIELD.country, FIELD.orgCountry, FIELD.premisesCountry) })
export const region = anyOf({ ...where, kind: 'region', name: 'Region', says: 'region is', known: 'regions', fact: placeFact(FIELD.region, FIELD.orgRegion, FIELD.premisesRegion) })
export const district = anyOf({ ...where, kind: 'district', name: 'District', says: 'district is', known: 'districts', fact: placeFact(FIELD.district, FIELD.orgDistrict, FIELD.premisesDistrict) })
