import { EVERYTHING, SUBJECT_NAMES } from '../columns/subject'
import type { Group } from '../criteria/kind'
import { CRITERIA, type Criterion, type CriterionName, sentence } from '../criteria/registry'
import { type Line, subjectOf } from './line'

/** Longest name a list can have, in characters. */
export const LONGEST_NAME = 120

/** In this order a name says what a list is about. */
const ORDER: readonly Group[] = ['who they are', 'their organisation', 'premises', 'where', 'history', 'reach', 'lists']

/** Words before what some kinds ask for, where that alone would not be understood. */
const BEFORE: Partial<Record<CriterionName, string>> = {
  place: 'in',
  county: 'in',
  district: 'in',
  region: 'in',
  country: 'in',
  street: 'on',
  area: 'in',
  'in-role': 'in the role',
  joined: 'there',
  earlier: 'once at',
  about: 'saying',
  acquaintance: '',
  languages: 'speaking',
  tag: 'tagged',
  holder: 'held by',
  'org-name': 'of',
  'org-domain': 'at',
  'org-description': 'saying',
  growth: 'growing',
  founded: 'founded',
  'roof-area': 'roof',
  'floor-area': 'floor',
  'year-built': 'built',
  equity: 'equity',
  held: 'held',
  value: 'worth',
  loan: 'loan',
  price: 'bought for',
  'owner-lives': 'owner lives',
  'owner-kind': 'owner a',
  reach: 'with',
  list: 'on',
  'any-list': 'on',
  batch: 'from',
  bedrooms: 'bedrooms',
  'our-people': 'people we know',
  revenue: 'revenue',
  counted: 'counted',
}
/** And after it. */
const AFTER: Partial<Record<CriterionName, string>> = {
  'head-count': 'people',
  counted: 'people',
  holdings: 'premises of one owner',
  relation: '',
}

/** Kinds whose chips say nothing by themselves: their whole sentence is taken. */
const WHOLE: ReadonlySet<CriterionName> = new Set<CriterionName>([
  'custom',
  'near',
  'contacted',
  'contact-count',
  'interest',
  'round',
  'related',
  'listed',
  'without-loan',
  'likely',
])

/**
 * Names for a list made of its lines, the shortest first: what its keep lines ask for, then with what its drop lines leave
 * out. At most three, none longer than a name may be. Lines that are switched off say nothing.
 */
export function namesFrom(lines: readonly Line[]): string[] {
  const subject = subjectOf(lines)
  const on = lines.filter((line) => !line.off)
  const start = on[0]?.verb === 'start' && on[0].batch ? [`from ${on[0].batch.name}`] : []
  const pieces = (verb: 'keep' | 'drop') =>
    ORDER.flatMap((group) =>
      on.flatMap((line) =>
        line.verb === verb && CRITERIA[line.criterion.kind].group === group ? [{ group, text: piece(line.criterion) }] : [],
      ),
    ).filter((p) => p.text !== '')
  const kept = pieces('keep')
  const own = subject === 'person' ? [] : [SUBJECT_NAMES[subject]]
  const first = ORDER.flatMap((group) => kept.find((p) => p.group === group)?.text ?? []).slice(0, 3)
  const all = kept.map((p) => p.text)
  const without = pieces('drop').map((p) => `without ${p.text.replace(/^(with|in|on) /, '')}`)
  const names = [
    [...own, ...first, ...start],
    [...own, ...all, ...start],
    [...own, ...all, ...start, ...without],
  ].map(joined)
  const told = [...new Set(names.filter((name) => name !== ''))]
  return told.length > 0 ? told : [capital(EVERYTHING[subject])]
}

function piece(criterion: Criterion): string {
  const phrases = sentence(criterion)
  const { kind } = criterion
  if (WHOLE.has(kind)) return plain(phrases.map((p) => ('chip' in p ? p.chip : p.text)).join(' '))
  const chips = phrases.flatMap((p) => ('chip' in p ? [p.chip] : []))
  const some = chips.length > 3 ? `${chips.slice(0, 2).join(', ')} and ${chips.length - 2} more` : chips.join(' or ')
  return [BEFORE[kind] ?? '', some, AFTER[kind] ?? ''].filter(Boolean).join(' ')
}

/** A sentence without the words that only hold it together. */
const plain = (text: string): string =>
  text
    .replace(/ counting any channel$/, '')
    .replace(/ by anyone\b/, '')
    .replace(/^(was|is|has|were) /, '')
    .replace(/\s+/g, ' ')

const capital = (text: string): string => text.slice(0, 1).toUpperCase() + text.slice(1)

function joined(parts: readonly string[]): string {
  let name = ''
  for (const part of parts) {
    const next = name === '' ? capital(part) : `${name}, ${part}`
    if (next.length > LONGEST_NAME) break
    name = next.replace(/\s+/g, ' ').trim()
  }
  return name
}
