import { parseFullName } from 'parse-full-name'
import { fold } from './fold'
import { BEFORE_NAMES, BEHIND_NAMES, PARTICLES } from './name-words'

export interface CleanName {
  given: string
  family: string
  /** As it is shown: given and family name. */
  name: string
  /** Comparable form: folded given and family name, or null where one of them is missing or only an initial. */
  key: string | null
  sortKey: string
  /** What stood before and behind the name, and another name in brackets or quotes; null where there was none. */
  honorific: string | null
  credentials: string | null
  nickname: string | null
  /** What was done to it, in words; empty where it came clean. */
  done: string[]
  /** What it lacks to be a whole name, in words, or null. */
  incomplete: string | null
}

// biome-ignore lint/suspicious/noMisleadingCharacterClass: it is meant to take marks of emoji one by one
const EMOJI = /(?:(?!\p{L})[\p{Extended_Pictographic}\p{Regional_Indicator}\p{Emoji_Modifier}\u20E3\uFE0F])+/gu
const INVISIBLE = /[\p{Cf}\p{Cc}]/u

/**
 * A person's name from one column or from two. What stands before it (Dr, Mrs) and behind it (PhD, FRICS), other names in
 * brackets, emoji and invisible characters are set apart, *Family, Given* is turned round, and capitals are mended only
 * where a part came all in capitals or all in small letters. Every letter that came is in one of the parts. Null where
 * there is no name. Cleaning what is clean changes nothing.
 */
export function cleanName(parts: { full?: string; given?: string; family?: string }): CleanName | null {
  const done: string[] = []
  let [given, family] = begun(parts, done)
  // What is taken off can lay bare something else that belongs off; until nothing changes any more.
  for (let n = 0; n < 5; n++) {
    const [g, f] = [again(given, done), again(family, done)]
    const still = g.rest === given.rest && f.rest === family.rest
    ;[given, family] = [g, f]
    if (still) break
  }
  return made(given, family, done)
}

function begun({ full = '', given = '', family = '' }: { full?: string; given?: string; family?: string }, done: string[]): [Apart, Apart] {
  if (squeeze(given) || squeeze(family))
    return [
      { ...NOTHING, rest: given },
      { ...NOTHING, rest: family },
    ]
  const text = scrub(full, done)
  if (!/\p{L}/u.test(text)) return [NOTHING, NOTHING]
  const { rest, ...apart } = setApart(text)
  const [g, f] = split(rest, done)
  return [
    { ...NOTHING, rest: g },
    { ...apart, rest: f },
  ]
}

/** A part of a name once more: what can still be set apart, and its capitals. */
function again(part: Apart, done: string[]): Apart {
  const { rest, before, behind, nick } = setApart(scrub(part.rest, done), true)
  const mended = mendCase(rest)
  if (mended !== rest) tell(done, 'capitals mended')
  return { rest: mended, before: [...part.before, ...before], behind: [...behind, ...part.behind], nick: [...part.nick, ...nick] }
}

const tell = (done: string[], what: string): void => {
  if (!done.includes(what)) done.push(what)
}

/** The comparable form of a name that is already clean. */
export function nameKey(given: string, family: string): string | null {
  const [g, f] = [fold(given), fold(family)]
  return isInitial(g) || f === '' ? null : `${g}|${f}`
}

/** Lone surrogates, which no encoding can hold, as something else: the replacement character where nothing is said. */
export const wellFormed = (text: string, instead = '\uFFFD'): string =>
  text.replace(/[\uD800-\uDBFF](?![\uDC00-\uDFFF])|(?<![\uD800-\uDBFF])[\uDC00-\uDFFF]/g, instead)

/** A text without blanks at its ends; whatever else is handed over stays as it is, for a schema to refuse. */
export const trimmed = (value: unknown): unknown => (typeof value === 'string' ? value.trim() : value)

/** White space and invisible marks (bidirectional controls, zero-width characters) made single spaces. */
export function squeeze(text: string): string {
  return text
    .normalize('NFC')
    .replace(/[\p{Cf}\p{Cc}\s]+/gu, ' ')
    .trim()
}

interface Apart {
  rest: string
  before: string[]
  behind: string[]
  nick: string[]
}
const NOTHING: Apart = { rest: '', before: [], behind: [], nick: [] }

function made(given: Apart, family: Apart, done: string[]): CleanName | null {
  // Senior and junior are two people, so that stays with the name.
  const behind = [...given.behind, ...family.behind]
  const at = family.rest === '' ? -1 : behind.findIndex((word) => GENERATIONS[fold(word)])
  const [g, f] = [given.rest, at < 0 ? family.rest : `${family.rest} ${written(behind[at])}`]
  const name = squeeze(`${g} ${f}`)
  if (name === '') return null
  const joined = (which: 'before' | 'behind' | 'nick') =>
    (which === 'behind' ? behind.filter((_, i) => i !== at) : [...given[which], ...family[which]]).join(' ') || null
  const [honorific, credentials, nickname] = [joined('before'), joined('behind'), joined('nick')]
  for (const apart of [honorific, credentials, nickname]) if (apart) done.push(`“${apart}” set apart`)
  return {
    given: g,
    family: f,
    name,
    key: nameKey(g, f),
    sortKey: `${fold(f)} ${fold(g)}`.trim(),
    honorific,
    credentials,
    nickname,
    done,
    incomplete: lacks(g, f),
  }
}

/** What tells generations of one name apart, folded, and what it is compared as (common practice, no source). */
const GENERATIONS: Record<string, string> = {
  jr: 'jr',
  jnr: 'jr',
  junior: 'jr',
  sr: 'sr',
  snr: 'sr',
  senior: 'sr',
  ii: 'ii',
  iii: 'iii',
  iv: 'iv',
}

/** A generation as it stands behind a name: III, Jr. */
const written = (word: string): string => {
  const bare = word.replace(/\.$/, '')
  return /^i/i.test(bare) ? bare.toUpperCase() : bare.slice(0, 1).toUpperCase() + bare.slice(1).toLowerCase()
}

/** A folded family name, and the generation behind it; empty where it tells none. *smith junior* is smith and jr. */
export function generationOf(family: string): { family: string; generation: string } {
  const cut = family.lastIndexOf(' ')
  const generation = cut > 0 ? GENERATIONS[family.slice(cut + 1)] : undefined
  return generation ? { family: family.slice(0, cut), generation } : { family, generation: '' }
}

function lacks(given: string, family: string): string | null {
  if (given === '') return 'the given name is missing'
  if (family === '') return 'the family name is missing'
  if (isInitial(fold(family))) return 'the family name is one letter'
  return isInitial(fold(given)) ? 'the given name is an initial' : null
}

/** Nothing, or one letter of a script that writes names in several. */
function isInitial(folded: string): boolean {
  const letters = folded.replaceAll(' ', '')
  return letters.length < 2 && !/[\p{Script=Han}\p{Script=Hangul}]/u.test(letters)
}

/** A cell without emoji, invisible characters and marks around it. */
function scrub(cell: string, done: string[]): string {
  const plain = cell.replace(EMOJI, ' ')
  if (plain !== cell) tell(done, 'emoji taken off')
  if (INVISIBLE.test(plain.replace(/[\t\r\n]/g, ' ').replaceAll('\u200D', ''))) tell(done, 'invisible characters taken off')
  const text = squeeze(plain)
  if (bare(text) !== text) tell(done, 'marks around it taken off')
  return bare(text)
}

/** Without the marks before and behind it that are no part of a name; brackets and quotes stay for now. */
const bare = (text: string): string => squeeze(text.replace(/^[^\p{L}\p{N}("“]+/u, '').replace(/[^\p{L}\p{N}\p{M}.)"”’']+$/u, ''))

/** What stands before and behind a name, and names in brackets or quotes, apart from the rest. */
function setApart(text: string, part = false): Apart {
  const nick: string[] = []
  let rest = squeeze(
    text.replace(/\((hons)\.?\)/gi, ' $1 ').replace(/[("“]([^()"“”]*\p{L}[^()"“”]*)[)"”]/gu, (whole, inner: string, at: number) => {
      const name = squeeze(inner)
      if (at === 0 && squeeze(text).length === whole.length) return ` ${name} `
      nick.push(name)
      return ' '
    }),
  )
  // Nothing but names in brackets or quotes: then they are the name.
  if (!/[\p{L}\p{N}]/u.test(rest)) rest = squeeze([...nick.splice(0), rest].join(' '))
  const before: string[] = []
  for (let found = BEFORE.exec(rest); found && /\p{L}/u.test(found[2]) && !GENERATIONS[fold(found[2])]; found = BEFORE.exec(rest)) {
    before.push(found[1])
    rest = squeeze(found[2])
  }
  const behind: string[] = []
  for (let found = BEHIND.exec(rest); found && isBehind(found[1], found[2], found[3], part); found = BEHIND.exec(rest)) {
    behind.unshift(found[3])
    rest = squeeze(found[1]).replace(/,$/, '')
  }
  return { rest: bare(rest), before, behind, nick }
}

const either = (words: readonly string[]) =>
  [...words]
    .sort((a, b) => b.length - a.length)
    .map((word) => word.replaceAll('.', '\\.'))
    .join('|')
const BEFORE = new RegExp(`^((?:(?:${either(BEFORE_NAMES)})\\.?(?:\\s*(?:&|and|/)\\s*)?)+)\\s+(?!,)(.+)$`, 'isu')
const BEHIND = new RegExp(`^(.+?)(,\\s*|\\s+)((?:${either(BEHIND_NAMES)})\\.?)$`, 'isu')

/** *Anna Ma* and *LEE CHI MA* are names; behind a comma, or in the writing of a degree behind two words, it is none. */
function isBehind(rest: string, gap: string, word: string, part: boolean): boolean {
  if (!/\p{L}/u.test(rest)) return false
  if (gap.includes(',')) return true
  if (/^([js]n?r|ii|iii|iv)\.?$/i.test(word)) return true
  const shouted = rest === rest.toUpperCase()
  return (part || rest.includes(' ')) && (/\p{Lu}.*\p{Lu}/u.test(word) || /^(esq|hons)/i.test(word)) && !(shouted && word.length < 3)
}

/** Given and family name of a whole name. Particles (van der) go with the family name. */
function split(name: string, done: string[]): [given: string, family: string] {
  if (/^the\s/i.test(name)) return ['', name]
  const parsed = parseFullName(name, 'all', 0)
  const [given, family] = [squeeze(`${parsed.first} ${parsed.middle}`), squeeze(parsed.last)]
  const sorted = (text: string) => fold(text).split(' ').filter(Boolean).sort().join(' ')
  if (sorted(`${given} ${family}`) === sorted(name) && family !== '') {
    if (name.includes(',')) done.push('turned round from “Family, Given”')
    return withParticles(given, family)
  }
  // The parser lost or kept apart something: the last word is the family name, and what goes before a comma.
  const comma = /^([^,]+),(.+)$/.exec(name)
  if (comma && /\p{L}/u.test(comma[2])) {
    done.push('turned round from “Family, Given”')
    return [squeeze(comma[2]), squeeze(comma[1])]
  }
  const words = name.split(' ')
  return [words.slice(0, -1).join(' '), words[words.length - 1]]
}

/** Words between two family names, which belong to both of them. */
const BETWEEN = new Set(['y', 'e', 'i', 'und', 'et'])

/** Particles that were left at the end of the given name go with the family name, and what a word like *y* joins to it. */
function withParticles(given: string, family: string): [given: string, family: string] {
  const words = given.split(' ')
  let at = words.length
  while (at > 1 && (PARTICLES.has(fold(words[at - 1])) || BETWEEN.has(fold(words[at - 1])))) at--
  if (at < words.length && at > 1 && BETWEEN.has(fold(words[at]))) at--
  return at === words.length ? [given, family] : [words.slice(0, at).join(' '), [...words.slice(at), family].join(' ')]
}

function mendCase(part: string): string {
  const letters = part.replace(/[^\p{L}]/gu, '')
  if (letters.length < 2 || (letters !== letters.toUpperCase() && letters !== letters.toLowerCase())) return part
  const mended = part
    .toLowerCase()
    .replace(/(^|[\s\-'’.])(\p{L})/gu, (_, before: string, letter: string) => before + letter.toUpperCase())
    .replace(/\bMc(\p{L})/gu, (_, letter: string) => `Mc${letter.toUpperCase()}`)
  const words = mended.split(' ')
  return words.map((word, i) => (i < words.length - 1 && PARTICLES.has(word.toLowerCase()) ? word.toLowerCase() : word)).join(' ')
}
