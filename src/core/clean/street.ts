/** A line of an address taken apart: the unit, the house number or range as it stands, and the street. */
export interface StreetLine {
  /** *flat 2*, in small letters; null where no unit is named. */
  unit: string | null
  /** The (first) number of the house; null where there is none. */
  house: number | null
  /** The number with its letter, or the range: *12a*, *12-14*; empty where there is none. */
  number: string
  /** What is left: the name of the street. */
  street: string
}

const WORDS = 'flat|apartment|apt|unit|suite|ste|room|rm|floor|flr'
const UNIT: Record<string, string> = {
  flat: 'flat',
  apartment: 'flat',
  apt: 'flat',
  unit: 'unit',
  suite: 'suite',
  ste: 'suite',
  room: 'room',
  rm: 'room',
  floor: 'floor',
  flr: 'floor',
}
const ID = '\\d{1,4}[a-z]?|[a-z]'
/** *Flat 2, 12 Mill Lane*; *Flat 2 Alder House*. */
const BEFORE = new RegExp(`^(${WORDS})\\.?\\s*(?:no\\.?\\s*)?(${ID})(?=[\\s,/-])[\\s,/-]+(?=.*\\p{L}{2})(.+)$`, 'iu')
/** *12 Mill Lane, Flat 2*; *12 Mill Lane #2*. */
const BEHIND = new RegExp(`^(.*\\p{L}{2}.*?)[\\s,]+(?:(${WORDS})\\.?\\s*(?:no\\.?\\s*)?|#\\s*)(${ID})\\.?$`, 'iu')
/** *2nd floor, 12 Mill Lane*, on either side. */
const STOREY_BEFORE = /^(\d{1,2})(?:st|nd|rd|th)\s+(?:floor|flr)[\s,]+(.+)$/i
const STOREY_BEHIND = /^(.*\p{L}{2}.*?)[\s,]+(\d{1,2})(?:st|nd|rd|th)\s+(?:floor|flr)\.?$/iu
/** What stands before a number and says that it is one. */
const NUMBER_WORD = /^(?:no|nr|nos|number|nº|n°|#)\.?\s*(?=\d)/i
/** A number, with a letter or the end of a range: *12*, *12a*, *12 b*, *12-14*, *12/14*. */
const HOUSE = /^(\d{1,5})(?:\s*([a-z])(?=[\s,])|\s*[-–/]\s*(\d{1,5})([a-z])?(?=[\s,]))?[\s,]+(?=\S)(.+)$/i
/** A street that is a single letter: *A Street*. */
const LETTER_STREET = /^(street|st|avenue|ave|road|rd)\b\.?$/i

/**
 * Takes a line of an address apart. A flat may stand before or behind, a number may have a letter or be a range: every place that
 * needs the number, the street or the unit goes through here. Never throws; what cannot be told apart is the street.
 */
export function streetLine(line: string): StreetLine {
  let rest = line.trim().replace(/\s+/g, ' ')
  let unit: string | null = null
  const storey = STOREY_BEFORE.exec(rest)
  const before = storey ? null : BEFORE.exec(rest)
  if (storey) [unit, rest] = [`floor ${storey[1]}`, storey[2]]
  else if (before) [unit, rest] = [`${UNIT[before[1].toLowerCase()]} ${before[2].toLowerCase()}`, before[3]]
  if (unit === null) {
    const high = STOREY_BEHIND.exec(rest)
    const behind = high ? null : BEHIND.exec(rest)
    if (high) [rest, unit] = [high[1], `floor ${high[2]}`]
    else if (behind) [rest, unit] = [behind[1], `${behind[2] ? UNIT[behind[2].toLowerCase()] : 'flat'} ${behind[3].toLowerCase()}`]
  }
  rest = rest.replace(NUMBER_WORD, '').replace(/,$/, '')
  const found = HOUSE.exec(rest)
  if (!found) return { unit, house: null, number: '', street: rest }
  let [, number, letter = '', to = '', toLetter = '', street] = found
  // *12 A Street* is number 12 on A Street, and *12 N Mill Lane* on the northern part of the lane.
  if (letter && (LETTER_STREET.test(street) || (/[nsew]/i.test(letter) && /^\d+\s/.test(rest))))
    [letter, street] = ['', rest.slice(number.length).trim()]
  return {
    unit,
    house: Number(number),
    number: `${number}${letter.toLowerCase()}${to ? `-${to}${toLetter.toLowerCase()}` : ''}`,
    street: street.replace(/^[\s,]+/, ''),
  }
}

/** The house number of a street line, and the rest of it; both null where there is no line. *12a Mill Lane* is number 12, and so is *Flat 2, 12-14 Mill Lane*. */
export function houseAndStreet(line: string | null): { house: number | null; street: string | null } {
  if (line === null) return { house: null, street: null }
  const { house, street } = streetLine(line)
  return { house, street: street === '' ? line : street }
}
