import type { Subject } from '../records/subject'
import type { CustomKind } from './custom'

/** A field that every team has. It stands among the team's own, from which its number, below zero, tells it. */
export interface StandardField {
  id: number
  of: Subject
  name: string
  kind: CustomKind
  choices: string[]
  /** What a number counts; of one that says nothing it is a plain count. */
  unit?: FieldUnit
}

/** What the number of a field is of: whole units of the team's currency, square metres, a percentage, or a year, which has no thousands. */
export type FieldUnit = 'money' | 'm²' | '%' | 'year'

/** What somebody does in a decision to buy (common practice, no source). */
export const PARTS = ['decides', 'advises', 'uses', 'pays', 'stands against'] as const
/** How well we know somebody. */
export const ACQUAINTANCE = ['not at all', 'by name', 'met', 'well'] as const
/** How somebody takes direct messages: from anyone, by a request that costs one of an allowance, or through somebody they know. */
export const DIRECT = ['open', 'by request', 'after an introduction'] as const
/** On what a contact rests in law (Regulation (EU) 2016/679, article 6(1), as far as it fits outreach). */
export const BASES = ['consent', 'legitimate interests', 'contract', 'legal obligation', 'public task'] as const
/** What an organisation is in law (common practice, no source). */
export const LEGAL_KINDS = ['sole trader', 'partnership', 'company', 'co-operative', 'charity', 'public body'] as const
/** What a place is to an organisation. */
export const SEATS = ['seat', 'site'] as const
/** How likely premises are to change hands, as a register or somebody of ours holds it. */
export const LIKELY = ['likely', 'possible', 'unlikely'] as const

const field = (
  id: number,
  of: Subject,
  name: string,
  kind: CustomKind,
  choices: readonly string[] = [],
  unit?: FieldUnit,
): StandardField => ({
  id,
  of,
  name,
  kind,
  choices: [...choices],
  ...(unit ? { unit } : {}),
})

const counting = (id: number, of: Subject, name: string, unit: FieldUnit) => field(id, of, name, 'number', [], unit)

/** Numbers of the fields, by what they hold. They are in data and never change. */
export const FIELD = {
  about: -1,
  languages: -2,
  inRoleSince: -3,
  joined: -4,
  earlier: -5,
  part: -6,
  acquaintance: -7,
  direct: -8,
  holder: -9,
  country: -10,
  region: -11,
  district: -12,
  lastPurchase: -13,
  lastInquiry: -14,
  basis: -15,
  basisUntil: -16,
  description: -21,
  industryCode: -22,
  legalKind: -23,
  counted: -24,
  growth: -25,
  revenue: -26,
  founded: -27,
  seat: -28,
  orgCountry: -29,
  orgRegion: -30,
  orgDistrict: -31,
  offLimits: -32,
  bedrooms: -41,
  floorArea: -42,
  transferDate: -43,
  price: -44,
  withoutLoan: -45,
  value: -46,
  loan: -47,
  listed: -48,
  likely: -49,
  ownerStreet: -50,
  ownerTown: -51,
  ownerCounty: -52,
  ownerPostcode: -53,
  ownerCountry: -54,
  premisesCountry: -55,
  premisesRegion: -56,
  premisesDistrict: -57,
} as const

/** Every field that every team has. Several languages or employers are set apart by semicolons; money is in whole units of the team's currency. */
export const STANDARD_FIELDS: readonly StandardField[] = [
  field(FIELD.about, 'person', 'Profile', 'text'),
  field(FIELD.languages, 'person', 'Languages', 'text'),
  field(FIELD.inRoleSince, 'person', 'In the role since', 'date'),
  field(FIELD.joined, 'person', 'At the organisation since', 'date'),
  field(FIELD.earlier, 'person', 'Earlier employers', 'text'),
  field(FIELD.part, 'person', 'Part in a decision', 'choice', PARTS),
  field(FIELD.acquaintance, 'person', 'How well we know them', 'choice', ACQUAINTANCE),
  field(FIELD.direct, 'person', 'Direct messages', 'choice', DIRECT),
  field(FIELD.holder, 'person', 'Whose they are', 'text'),
  field(FIELD.country, 'person', 'Country', 'text'),
  field(FIELD.region, 'person', 'Region', 'text'),
  field(FIELD.district, 'person', 'District', 'text'),
  field(FIELD.lastPurchase, 'person', 'Last purchase', 'date'),
  field(FIELD.lastInquiry, 'person', 'Last inquiry', 'date'),
  field(FIELD.basis, 'person', 'Legal basis', 'choice', BASES),
  field(FIELD.basisUntil, 'person', 'Legal basis until', 'date'),
  field(FIELD.description, 'organisation', 'Organisation: description', 'text'),
  field(FIELD.industryCode, 'organisation', 'Organisation: industry code', 'text'),
  field(FIELD.legalKind, 'organisation', 'Organisation: kind', 'choice', LEGAL_KINDS),
  field(FIELD.counted, 'organisation', 'Organisation: people counted', 'number'),
  counting(FIELD.growth, 'organisation', 'Organisation: growth in a year, %', '%'),
  counting(FIELD.revenue, 'organisation', 'Organisation: revenue', 'money'),
  counting(FIELD.founded, 'organisation', 'Organisation: founded', 'year'),
  field(FIELD.seat, 'organisation', 'Organisation: seat or site', 'choice', SEATS),
  field(FIELD.orgCountry, 'organisation', 'Organisation: country', 'text'),
  field(FIELD.orgRegion, 'organisation', 'Organisation: region', 'text'),
  field(FIELD.orgDistrict, 'organisation', 'Organisation: district', 'text'),
  field(FIELD.offLimits, 'organisation', 'Organisation: off limits, approached by', 'text'),
  field(FIELD.bedrooms, 'premises', 'Bedrooms', 'number'),
  counting(FIELD.floorArea, 'premises', 'Floor area', 'm²'),
  field(FIELD.transferDate, 'premises', 'Last transfer', 'date'),
  counting(FIELD.price, 'premises', 'Price at the last transfer', 'money'),
  field(FIELD.withoutLoan, 'premises', 'Bought without a loan', 'yes or no'),
  counting(FIELD.value, 'premises', 'Value', 'money'),
  counting(FIELD.loan, 'premises', 'Loan on it', 'money'),
  field(FIELD.listed, 'premises', 'Listed for sale', 'yes or no'),
  field(FIELD.likely, 'premises', 'Likely to change hands', 'choice', LIKELY),
  field(FIELD.ownerStreet, 'premises', 'Owner: street', 'text'),
  field(FIELD.ownerTown, 'premises', 'Owner: town', 'text'),
  field(FIELD.ownerCounty, 'premises', 'Owner: county', 'text'),
  field(FIELD.ownerPostcode, 'premises', 'Owner: postcode', 'text'),
  field(FIELD.ownerCountry, 'premises', 'Owner: country', 'text'),
  field(FIELD.premisesCountry, 'premises', 'Country', 'text'),
  field(FIELD.premisesRegion, 'premises', 'Region', 'text'),
  field(FIELD.premisesDistrict, 'premises', 'District', 'text'),
]

/** Returns the standard fields of a subject. */
export const standardFieldsOf = (subject: Subject): StandardField[] => STANDARD_FIELDS.filter(({ of }) => of === subject)
