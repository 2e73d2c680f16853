import { boolean, type InferType, mixed, number, object, string } from 'yup'
import type { Phrase } from '../criteria/kind'
import { type Criterion, sentence, validCriterion } from '../criteria/registry'

const id = string().matches(/^[\w-]{1,40}$/).required()
const off = boolean().default(false)

const startSchema = object({
  id,
  verb: string().oneOf(['start'] as const).required(),
  off,
  batch: object({ id: number().integer().positive().required(), name: string().required() }).nullable().default(null),
}).noUnknown()

const criterionSchema = object({
  id,
  verb: string().oneOf(['keep', 'drop', 'add'] as const).required(),
  off,
  /** Keep only: let those through for whom the answer is unknown. */
  unknownAsYes: boolean().default(false),
  criterion: mixed<Criterion>().required(),
}).noUnknown()

export type StartLine = InferType<typeof startSchema>
export type CriterionLine = InferType<typeof criterionSchema>
/** One line of a list's page, as plain data. */
export type Line = StartLine | CriterionLine

/** More lines than this are refused. */
export const MOST_LINES = 60

/**
 * Checks the lines of a page that came from outside: the first is the only start, ids are distinct, every criterion
 * is whole. Throws an Error whose message names the line (from 1) and what is wrong.
 */
export function validLines(value: unknown): Line[] {
  if (!Array.isArray(value) || value.length === 0) throw new Error('a list needs a line to start with')
  if (value.length > MOST_LINES) throw new Error(`a list holds at most ${MOST_LINES} lines`)
  const seen = new Set<string>()
  return value.map((raw, i) => {
    try {
      const line: Line =
        raw?.verb === 'start' ? startSchema.validateSync(raw, { strict: true }) : criterionSchema.validateSync(raw, { strict: true })
      if ((line.verb === 'start') !== (i === 0)) throw new Error(i === 0 ? 'the first line says what to start with' : 'only the first line can start')
      if (seen.has(line.id)) throw new Error('its id stands twice')
      seen.add(line.id)
      if (line.verb !== 'start') return { ...line, criterion: validCriterion(line.criterion) }
      return line
    } catch (error) {
      throw new Error(`line ${i + 1}: ${(error as Error).message}`)
    }
  })
}

const VERB = { start: 'Start', keep: 'Keep', drop: 'Drop', add: 'Add' } as const

/** A line's sentence: its verb and the pieces after it. */
export function lineSentence(line: Line): { verb: string; phrases: Phrase[] } {
  if (line.verb === 'start') {
    const chip = line.batch ? `everyone from ${line.batch.name}` : 'everyone in the directory'
    return { verb: VERB.start, phrases: [{ text: 'with' }, { chip, field: 'batch' }] }
  }
  const phrases = sentence(line.criterion)
  if (line.verb === 'keep' && line.unknownAsYes) phrases.push({ text: '(or unknown)' })
  return { verb: VERB[line.verb], phrases: line.verb === 'add' ? [{ text: 'everyone who' }, ...phrases] : phrases }
}

/** The sentence as one string, for files, evidence and screen readers. */
export function lineText(line: Line): string {
  const { verb, phrases } = lineSentence(line)
  return [verb, ...phrases.map((p) => ('text' in p ? p.text : p.chip))].join(' ')
}

/** Whether two lines say the same, whatever their ids. */
export function sameLine(a: Line, b: Line): boolean {
  return JSON.stringify({ ...a, id: '' }) === JSON.stringify({ ...b, id: '' })
}
