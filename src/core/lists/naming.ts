import { EVERYTHING, SUBJECT_NAMES } from '../records/subject'
import type { Group } from '../criteria/kind'
import { CRITERIA, type Criterion, sentence } from '../criteria/registry'
import { type Line, subjectOf } from './line'

/** Longest name a list can have, in characters. */
export const LONGEST_NAME = 120

/** In this order a name says what a list is about. */
const ORDER: readonly Group[] = ['who they are', 'their organisation', 'premises', 'where', 'history', 'reach', 'lists']

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
  const { inName } = CRITERIA[criterion.kind]
  if (inName === 'sentence') return plain(phrases.map((p) => ('chip' in p ? p.chip : p.text)).join(' '))
  const chips = phrases.flatMap((p) => ('chip' in p ? [p.chip] : []))
  const some = chips.length > 3 ? `${chips.slice(0, 2).join(', ')} and ${chips.length - 2} more` : chips.join(' or ')
  return [inName.before, some, inName.after].filter(Boolean).join(' ')
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
