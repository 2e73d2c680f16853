import { fold } from '../clean/fold'

/** What can be filled in for each person, by the word it is written with. */
export const LETTER_FIELDS = ['name', 'given name', 'family name', 'role', 'organisation', 'opener'] as const
export type LetterField = (typeof LETTER_FIELDS)[number]

/** Other words for the same (common practice, no source). */
const SYNONYMS: Record<string, LetterField> = {
  'full name': 'name',
  'first name': 'given name',
  given: 'given name',
  'last name': 'family name',
  surname: 'family name',
  family: 'family name',
  'job title': 'role',
  title: 'role',
  company: 'organisation',
  employer: 'organisation',
  organization: 'organisation',
  'first sentence': 'opener',
}

/** A text, or a field with what stands in where somebody has none; an empty one leaves it out, and null is none. */
export type LetterPart = string | { field: LetterField; standIn: string | null }

/** What is filled in for one person; null where it is not known. */
export type LetterValues = Record<LetterField, string | null>

/**
 * Reads a text with fields in braces: `{given name}`, or `{given name|there}` with what stands in. Two braces stand for one. `troubles`
 * says what cannot be read, with its line.
 * @example readLetter('Dear {given name|neighbour}').parts // ['Dear ', { field: 'given name', standIn: 'neighbour' }]
 */
export function readLetter(text: string): { parts: LetterPart[]; troubles: string[] } {
  const parts: LetterPart[] = []
  const troubles: string[] = []
  let plain = ''
  const line = (at: number) => text.slice(0, at).split('\n').length
  for (let i = 0; i < text.length; ) {
    const two = text.slice(i, i + 2)
    if (two === '{{' || two === '}}') {
      plain += two[0]
      i += 2
    } else if (text[i] === '{') {
      const inside = /^\{([^{}\n]*)\}/.exec(text.slice(i))
      if (!inside) {
        troubles.push(`Line ${line(i)}: a brace is opened and not closed. Write {{ for a brace of its own.`)
        plain += text[i++]
        continue
      }
      const [word, ...rest] = inside[1].split('|')
      const field = fieldCalled(word)
      if (field) {
        if (plain) parts.push(plain)
        plain = ''
        parts.push({ field, standIn: rest.length === 0 ? null : rest.join('|').trim() })
      } else {
        troubles.push(
          `Line ${line(i)}: there is no field “${word.trim()}”. The fields are ${LETTER_FIELDS.slice(0, -1).join(', ')} and ${LETTER_FIELDS.at(-1)}.`,
        )
        plain += inside[0]
      }
      i += inside[0].length
    } else {
      if (text[i] === '}') troubles.push(`Line ${line(i)}: a brace is closed that was not opened. Write }} for a brace of its own.`)
      plain += text[i++]
    }
  }
  if (plain) parts.push(plain)
  return { parts, troubles }
}

function fieldCalled(word: string): LetterField | undefined {
  const folded = fold(word)
  return LETTER_FIELDS.find((field) => field === folded) ?? (Object.hasOwn(SYNONYMS, folded) ? SYNONYMS[folded] : undefined)
}

/**
 * The text for one person. A value is one line: breaks in it become spaces. `written` is applied to values and stand-ins alone. What nobody
 * knows and nothing stands in for is left empty, and named in `lacking`.
 */
export function fillLetter(
  parts: readonly LetterPart[],
  values: LetterValues,
  written: (value: string) => string = (value) => value,
): { text: string; lacking: LetterField[] } {
  const lacking = new Set<LetterField>()
  const text = parts
    .map((part) => {
      if (typeof part === 'string') return part
      const value = known(values[part.field]) ?? part.standIn
      if (value === null) lacking.add(part.field)
      return written(value ?? '')
    })
    .join('')
  return { text, lacking: [...lacking] }
}

const known = (value: string | null): string | null => {
  const line = (value ?? '').replace(/\s+/g, ' ').trim()
  return line === '' ? null : line
}

/** Of one field: how many of all who get a letter lack it, and what stands in for them; null where nothing does somewhere. */
export interface LetterGap {
  field: LetterField
  people: number
  standIn: string | null
}

/** What people lack of the fields that some texts use, those with nothing to stand in first. */
export function letterGaps(texts: readonly (readonly LetterPart[])[], everybody: Iterable<LetterValues>): LetterGap[] {
  const gaps = new Map<LetterField, LetterGap>()
  for (const part of texts.flat())
    if (typeof part !== 'string') {
      const before = gaps.get(part.field)
      const standIn = before ? (before.standIn === null ? null : (part.standIn ?? null)) : part.standIn
      gaps.set(part.field, { field: part.field, people: 0, standIn })
    }
  for (const values of everybody) for (const gap of gaps.values()) if (known(values[gap.field]) === null) gap.people++
  return [...gaps.values()]
    .filter(({ people }) => people > 0)
    .sort((a, b) => Number(a.standIn !== null) - Number(b.standIn !== null) || b.people - a.people)
}

/** What stands under every message: who sends it, from where, and how to stop it. */
export const footerText = (sender: string, address: string, stop: string): string =>
  `-- \n${[sender, address.trim(), `To stop these emails: ${stop}`].filter(Boolean).join('\n')}`
