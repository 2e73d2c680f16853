import { FIELD, LEGAL_KINDS, SEATS } from '../clean/standard-fields'
import { anyOf } from './any-of'
import { fieldFact, wordFact } from './facts'
import { range } from './range'
import { saysWords } from './says-words'

/**
 * Bands of revenue a year, both ends included. Source of the borders 2, 10 and 50 million, there in euros and taken here in
 * whatever currency the figures are in: Commission Recommendation 2003/361/EC, annex, article 2.
 */
export const REVENUE_BANDS = [
  { least: null, most: 2_000_000 },
  { least: 2_000_000, most: 10_000_000 },
  { least: 10_000_000, most: 50_000_000 },
  { least: 50_000_000, most: null },
] as const

const common = { of: 'organisation', group: 'their organisation' } as const

export const orgName = saysWords({
  ...common,
  kind: 'org-name',
  name: 'Organisation’s name',
  synonyms: ['company name', 'account name', 'employer', 'business name'],
  inName: { before: 'of', after: '' },
  says: 'organisation’s name says',
  fact: wordFact<'organisation'>(
    'name',
    (r) => r.name,
    (c) => c.name,
  ),
})
export const orgDomain = anyOf({
  ...common,
  kind: 'org-domain',
  name: 'Organisation’s domain',
  synonyms: ['website', 'company domain', 'email domain', 'url'],
  inName: { before: 'at', after: '' },
  says: 'organisation’s domain is',
  fact: wordFact<'organisation'>(
    'website',
    (r) => r.domain,
    (c) => c.domain,
  ),
})
export const orgDescription = saysWords({
  ...common,
  kind: 'org-description',
  name: 'Words of the organisation’s description',
  synonyms: ['company keywords', 'company description', 'keyword', 'about the company', 'technology'],
  inName: { before: 'saying', after: '' },
  says: 'organisation’s description says',
  fact: fieldFact<'organisation'>(FIELD.description),
})
export const legalKind = anyOf({
  ...common,
  kind: 'legal-kind',
  name: 'Organisation’s kind in law',
  synonyms: ['legal form', 'legal entity', 'company type', 'ownership', 'charity', 'public or private', 'ltd', 'plc'],
  inName: { before: '', after: '' },
  single: true,
  says: 'organisation’s kind is',
  all: LEGAL_KINDS,
  fact: fieldFact<'organisation'>(FIELD.legalKind),
})
export const counted = range({
  ...common,
  kind: 'counted',
  name: 'People counted at the organisation',
  synonyms: ['company size', 'employees', 'headcount', 'employee count'],
  inName: { before: 'counted', after: 'people' },
  says: 'organisation’s counted people are',
  lowest: 0,
  hint: 'Counted by a source; what the organisation says of itself is another criterion.',
  fact: fieldFact<'organisation'>(FIELD.counted),
})
export const growth = range({
  ...common,
  kind: 'growth',
  name: 'Organisation’s growth',
  synonyms: ['headcount growth', 'company growth', 'hiring', 'growing'],
  inName: { before: 'growing', after: '' },
  says: 'organisation’s growth in a year is',
  unit: '%',
  fact: fieldFact<'organisation'>(FIELD.growth),
})
/** Revenue is estimated more often than not, and the weaker figure beside the head count (common practice, no source). */
export const revenue = range({
  ...common,
  kind: 'revenue',
  name: 'Organisation’s revenue (the weaker figure)',
  synonyms: ['turnover', 'annual revenue', 'sales', 'company revenue', 'budget'],
  inName: { before: 'revenue', after: '' },
  says: 'organisation’s revenue, the weaker figure, is',
  unit: 'money',
  lowest: 0,
  hint: 'Revenue is mostly estimated. Head count is the stronger figure of the two.',
  bands: REVENUE_BANDS,
  fact: fieldFact<'organisation'>(FIELD.revenue),
})
export const founded = range({
  ...common,
  kind: 'founded',
  name: 'Organisation founded',
  synonyms: ['year founded', 'company age', 'start-up', 'startup', 'established'],
  inName: { before: 'founded', after: '' },
  says: 'organisation was founded in',
  unit: 'year',
  ends: ['or later', 'or earlier'],
  fact: fieldFact<'organisation'>(FIELD.founded),
})
export const seat = anyOf({
  ...common,
  kind: 'seat',
  name: 'Seat or site',
  synonyms: ['headquarters', 'head office', 'branch', 'site', 'location type'],
  inName: { before: '', after: '' },
  single: true,
  says: 'organisation’s place is its',
  all: SEATS,
  fact: fieldFact<'organisation'>(FIELD.seat),
})
/** How many of its people stand in the directory. Never unknown. */
export const ourPeople = range({
  ...common,
  kind: 'our-people',
  knownOfAll: true,
  name: 'Number of its people in the directory',
  synonyms: ['contacts per company', 'coverage', 'people known', 'number of contacts'],
  inName: { before: 'people we know', after: '' },
  says: 'organisation’s people in the directory are',
  lowest: 0,
  number: {
    asks: 'organisation',
    value: (r) => r.people ?? 0,
    at: (c) => {
      const people = c.people()
      return (n) => people[n]
    },
  },
})
