import { OWNER_KINDS } from '../clean/premises'
import { FIELD, LIKELY } from '../clean/standard-fields'
import { OWNER_LIVES } from '../records/premises-record'
import { anyOf } from './any-of'
import { fieldFact, wordFact } from './facts'
import { range } from './range'
import { since } from './since'

const common = { of: 'premises', group: 'premises' } as const
const field = (id: number) => fieldFact<'premises'>(id)
const YES_NO = ['yes', 'no'] as const

export const premisesKind = anyOf({
  ...common,
  kind: 'premises-kind',
  name: 'Kind of premises',
  synonyms: ['property type', 'building type', 'land use', 'residential', 'commercial', 'dwelling'],
  inName: { before: '', after: '' },
  single: true,
  says: 'premises are a',
  known: 'premisesKinds',
  fact: wordFact<'premises'>(
    'kind',
    (r) => r.kind,
    (c) => c.kind,
  ),
})
export const floorArea = range({
  ...common,
  kind: 'floor-area',
  name: 'Floor area of the premises',
  synonyms: ['square feet', 'square metres', 'sq ft', 'building size', 'living area', 'property size'],
  inName: { before: 'floor', after: '' },
  says: 'premises’ floor area is',
  unit: 'm²',
  lowest: 0,
  fact: field(FIELD.floorArea),
})
export const roofArea = range({
  ...common,
  kind: 'roof-area',
  name: 'Roof area',
  synonyms: ['roof size', 'roof square metres', 'building footprint'],
  inName: { before: 'roof', after: '' },
  says: 'premises’ roof is',
  unit: 'm²',
  lowest: 0,
  number: { asks: 'roof area', value: (r) => r.roofArea, at: (c) => (n) => orNull(c.roofArea.at(n)) },
})
export const yearBuilt = range({
  ...common,
  kind: 'year-built',
  name: 'Year built',
  synonyms: ['property age', 'building age', 'construction year', 'age of the home'],
  inName: { before: 'built', after: '' },
  says: 'premises were built in',
  unit: 'year',
  ends: ['or later', 'or earlier'],
  number: { asks: 'year built', value: (r) => r.yearBuilt, at: (c) => (n) => orNull(c.yearBuilt.at(n)) },
})
export const bedrooms = range({
  ...common,
  kind: 'bedrooms',
  name: 'Bedrooms',
  synonyms: ['beds', 'number of bedrooms'],
  inName: { before: 'bedrooms', after: '' },
  says: 'premises’ bedrooms are',
  lowest: 0,
  fact: field(FIELD.bedrooms),
})
export const ownerKind = anyOf({
  ...common,
  kind: 'owner-kind',
  name: 'Kind of owner',
  synonyms: ['owner type', 'ownership', 'corporate owner', 'private owner', 'trust', 'bank owned'],
  inName: { before: 'owner a', after: '' },
  single: true,
  says: 'premises’ owner is a',
  all: OWNER_KINDS,
  fact: wordFact<'premises'>(
    'kind of owner',
    (r) => r.ownerKind,
    (c) => c.ownerKind,
  ),
})
/** By comparing the owner's address with that of the premises, both in their comparable form. */
export const ownerLives = anyOf({
  ...common,
  kind: 'owner-lives',
  name: 'Where the owner lives',
  synonyms: ['absentee owner', 'owner occupied', 'owner occupier', 'out of state owner', 'landlord'],
  inName: { before: 'owner lives', after: '' },
  single: true,
  says: 'premises’ owner lives',
  all: OWNER_LIVES,
  hint: 'By the owner’s own address beside that of the premises; “there” is lived in by the owner.',
  fact: wordFact<'premises'>(
    'owner',
    (r) => r.ownerLives,
    (c) => c.ownerLives,
  ),
})
export const held = since({
  ...common,
  kind: 'held',
  name: 'Years held, or date of the last transfer',
  synonyms: ['last sale date', 'length of ownership', 'time owned', 'purchase date', 'sold', 'bought'],
  inName: { before: 'held', after: '' },
  says: 'premises have been held for',
  between: 'premises’ last transfer was',
  fact: field(FIELD.transferDate),
})
export const price = range({
  ...common,
  kind: 'price',
  name: 'Price at the last transfer',
  synonyms: ['sale price', 'purchase price', 'last sold price'],
  inName: { before: 'bought for', after: '' },
  says: 'price at the last transfer was',
  unit: 'money',
  lowest: 0,
  fact: field(FIELD.price),
})
export const withoutLoan = anyOf({
  ...common,
  kind: 'without-loan',
  name: 'Bought without a loan',
  synonyms: ['cash buyer', 'cash purchase', 'no mortgage'],
  inName: 'sentence',
  single: true,
  says: 'purchase without a loan is said:',
  all: YES_NO,
  fact: field(FIELD.withoutLoan),
})
export const value = range({
  ...common,
  kind: 'value',
  name: 'Value of the premises',
  synonyms: ['property value', 'estimated value', 'home value', 'market value', 'assessed value'],
  inName: { before: 'worth', after: '' },
  says: 'premises’ value is',
  unit: 'money',
  lowest: 0,
  fact: field(FIELD.value),
})
export const loan = range({
  ...common,
  kind: 'loan',
  name: 'Loan on the premises',
  synonyms: ['mortgage', 'mortgage balance', 'debt', 'lien', 'outstanding loan'],
  inName: { before: 'loan', after: '' },
  says: 'loan on the premises is',
  unit: 'money',
  lowest: 0,
  fact: field(FIELD.loan),
})
export const listed = anyOf({
  ...common,
  kind: 'listed',
  name: 'Listed for sale',
  synonyms: ['on the market', 'for sale', 'listing', 'mls status'],
  inName: 'sentence',
  single: true,
  says: 'listing for sale is said:',
  all: YES_NO,
  fact: field(FIELD.listed),
})
export const likely = anyOf({
  ...common,
  kind: 'likely',
  name: 'Likely to change hands',
  synonyms: ['likely to sell', 'propensity', 'seller score', 'moving'],
  inName: 'sentence',
  single: true,
  says: 'change of hands is',
  all: LIKELY,
  fact: field(FIELD.likely),
})

const orNull = (value: number) => (value < 0 ? null : value)
