import { type Criterion, CRITERIA, type CriterionName, fits } from './registry'
import type { Subject } from '../columns/subject'

/** Questions whose unknown are those of every question of their kind; kinds that know of everybody, or need more to be asked, are not among them. */
const OWN: Partial<Record<CriterionName, object>> = {
  role: { any: ['?'] },
  level: { any: ['head'] },
  function: { any: ['finance'] },
  relation: { any: ['customer'] },
  industry: { any: ['?'] },
  county: { any: ['?'] },
  'head-count': { any: ['1 to 9'] },
  'industry-code': { any: ['NAICS 99'] },
  place: { towns: ['?'], postcodes: [] },
  street: { streets: [{ street: '?', from: null, to: null, side: 'both' }] },
  near: { metres: 1, lat: 1, lon: 1, name: '' },
  equity: { as: 'equity', least: 0, most: null },
  holdings: { least: 1, most: null, months: null },
}

/** A question of a kind by which it can be told how many are unknown before it is asked; null where that says nothing. */
export function probeOf(kind: CriterionName): Criterion | null {
  const own = OWN[kind]
  if (own) return { kind, ...own } as Criterion
  const { form } = CRITERIA[kind] as { form?: { of: string; all?: readonly string[] } }
  if (kind === 'our-people') return null
  switch (form?.of) {
    case 'choices':
      return { kind, any: [form.all?.[0]] } as Criterion
    case 'words':
      return { kind, any: ['?'] } as Criterion
    case 'says':
      return { kind, any: ['?'], all: [], none: [] } as Criterion
    case 'range':
      return { kind, least: 0, most: null } as Criterion
    case 'time':
      return { kind, least: 0, most: null, from: null, to: null } as Criterion
    default:
      return null
  }
}

/** All the questions of kinds that a list of a subject can ask. */
export const probesFor = (subject: Subject): Criterion[] =>
  (Object.keys(CRITERIA) as CriterionName[]).filter((kind) => fits(kind, subject)).flatMap((kind) => probeOf(kind) ?? [])
