import { describe, expect, test } from 'vitest'
import { foundBy } from '@/core/criteria/found-by'
import { CRITERIA, type CriterionName } from '@/core/criteria/registry'

const KINDS = Object.keys(CRITERIA) as CriterionName[]
const found = (typed: string) => KINDS.filter((kind) => foundBy(kind, typed))

/** Words a newcomer brings, and the criterion that must be among what they find (common practice, no source). */
describe('a newcomer’s word finds ours', () => {
  test.each<[string, CriterionName]>([
    ['job title', 'role'],
    ['seniority', 'level'],
    ['department', 'function'],
    ['company size', 'head-count'],
    ['employees', 'head-count'],
    ['turnover', 'revenue'],
    ['city', 'place'],
    ['zip', 'place'],
    ['state', 'county'],
    ['mobile', 'reach'],
    ['email', 'reach'],
    ['mortgage', 'loan'],
    ['ltv', 'equity'],
    ['customer', 'relation'],
    ['do not contact', 'relation'],
    ['campaign', 'round'],
    ['segment', 'list'],
    ['absentee owner', 'owner-lives'],
    ['cash buyer', 'without-loan'],
    ['radius', 'near'],
    ['polygon', 'area'],
    ['headquarters', 'seat'],
    ['tenure', 'in-role'],
    ['custom field', 'custom'],
    ['website', 'org-domain'],
    ['label', 'tag'],
    ['sales rep', 'holder'],
    ['gone quiet', 'interest'],
    ['colleagues', 'related'],
  ])('%s finds %s', (typed, kind) => expect(found(typed)).toContain(kind))

  test('each is found by its own name, in any letters, and part of a word is enough', () => {
    for (const kind of KINDS) expect(found(CRITERIA[kind].name.toUpperCase())).toContain(kind)
    expect(found('senior')).toContain('level')
    expect(found('size company')).toEqual(found('company size'))
  })

  test('nothing typed finds all, and what means nothing finds none', () => {
    expect(found('')).toEqual(KINDS)
    expect(found('xylophone')).toEqual([])
  })

  test('synonyms are in small letters, and none is there twice', () => {
    for (const kind of KINDS) {
      const { synonyms } = CRITERIA[kind]
      expect(synonyms.length, kind).toBeGreaterThan(0)
      expect(synonyms, kind).toEqual([...new Set(synonyms.map((word) => word.toLowerCase().trim()))])
    }
  })
})
