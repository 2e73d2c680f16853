import { NACE_TITLES } from './nace-titles'

/** Sections of NACE Rev. 2 and ISIC Rev. 4, by the divisions they hold. Source: Regulation (EC) No 1893/2006, annex I. */
const SECTIONS: Record<string, readonly [number, number]> = {
  A: [1, 3],
  B: [5, 9],
  C: [10, 33],
  D: [35, 35],
  E: [36, 39],
  F: [41, 43],
  G: [45, 47],
  H: [49, 53],
  I: [55, 56],
  J: [58, 63],
  K: [64, 66],
  L: [68, 68],
  M: [69, 75],
  N: [77, 82],
  O: [84, 84],
  P: [85, 85],
  Q: [86, 88],
  R: [90, 93],
  S: [94, 96],
  T: [97, 98],
  U: [99, 99],
}

/** Sectors of NAICS that hold more than one pair of digits. Source: US Census Bureau, North American Industry Classification System, 2017. */
const SECTORS: Record<string, readonly [number, number]> = {
  '31': [31, 33],
  '32': [31, 33],
  '33': [31, 33],
  '44': [44, 45],
  '45': [44, 45],
  '48': [48, 49],
  '49': [48, 49],
}

export interface IndustryCode {
  system: 'NAICS' | 'NACE' | null
  /** Its digits, or the letter of a section. */
  digits: string
}

/** A code of an industry with its system, where one is named: *NAICS 312120*, *NACE C11.05*, *11.05*. Null where it is none. */
export function industryCode(text: string): IndustryCode | null {
  const found = /^\s*(?:(NAICS|NACE|ISIC)\s*:?\s*)?([A-U])?\s*(\d[\d.]*|\d\d-\d\d)?\s*$/i.exec(text)
  if (!found || (found[2] === undefined && found[3] === undefined)) return null
  const system = found[1]?.toUpperCase()
  const letter = found[2]?.toUpperCase()
  const digits = (found[3] ?? '').replace(/\./g, '')
  return {
    system: system === 'NAICS' ? 'NAICS' : system || letter || found[3]?.includes('.') ? 'NACE' : null,
    digits: digits || (letter as string),
  }
}

/** Whether a code stands in a branch: it is the branch, or a leaf below it. Codes of another system never do. */
export function inBranch(code: IndustryCode, branch: IndustryCode): boolean {
  if (code.system !== null && branch.system !== null && code.system !== branch.system) return false
  const section = SECTIONS[branch.digits]
  if (section) {
    const division = Number(code.digits.slice(0, 2))
    return code.digits === branch.digits || (division >= section[0] && division <= section[1])
  }
  const sector = branch.digits.length === 2 && branch.system === 'NAICS' ? SECTORS[branch.digits] : undefined
  if (sector) {
    const own = Number(code.digits.slice(0, 2))
    return own >= sector[0] && own <= sector[1]
  }
  return code.digits.startsWith(branch.digits)
}

/** The branch one step above a code: a digit fewer, and the section or sector above two digits; null above these. */
export function branchAbove({ system, digits }: IndustryCode): IndustryCode | null {
  if (!/^\d/.test(digits)) return null
  if (digits.length > 2) return { system, digits: digits.slice(0, -1) }
  if (system === 'NAICS') return null
  const division = Number(digits)
  const section = Object.entries(SECTIONS).find(([, [first, last]]) => division >= first && division <= last)
  return section ? { system: 'NACE', digits: section[0] } : null
}

/**
 * The title of a code of NACE or ISIC: of its section or division, said to be so where the code is a leaf below it. Null where
 * there is none, or where the code is of NAICS or of no system that is told.
 */
export function naceTitle({ system, digits }: IndustryCode): string | null {
  if (system !== 'NACE') return null
  const title = NACE_TITLES[digits.slice(0, 2)]
  return title === undefined ? null : digits.length > 2 ? `in ${digits.slice(0, 2)}, ${title}` : title
}

/**
 * Codes beside some chosen ones: of those known, the ones in the branch above a chosen one that are in none of the chosen
 * branches, in the order they are known in.
 */
export function codesBeside(chosen: readonly string[], known: readonly string[]): string[] {
  const own = chosen.map(industryCode).filter((code): code is IndustryCode => code !== null)
  const above = own.map(branchAbove).filter((branch): branch is IndustryCode => branch !== null)
  return known.filter((text) => {
    const code = industryCode(text)
    return code !== null && above.some((branch) => inBranch(code, branch)) && !own.some((branch) => inBranch(code, branch))
  })
}
