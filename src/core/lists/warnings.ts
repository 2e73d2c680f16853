import { CRITERIA, type Criterion } from '../criteria/registry'
import type { LineFigures } from './account'
import { type CriterionLine, type Line, sameLine } from './line'

/** Something worth saying of a line, and the line that would do instead, with the words of the offer. */
export interface LineWarning {
  text: string
  instead?: Line
  offer?: string
}

/** From this share on, a loss is called mostly unknown (common practice, no source). */
const MOSTLY = 0.5

/** What is worth saying of one line: that it does nothing, that its loss is mostly unknown, that another says the contrary. */
export function warningsOf(lines: readonly Line[], at: number, figures: LineFigures, before: number): LineWarning[] {
  const line = lines[at]
  if (line.off || line.verb === 'start') return []
  const warnings: LineWarning[] = []
  const lost = figures.out + figures.unknown
  if (lost === 0 && figures.in === 0)
    warnings.push({
      text:
        before === 0
          ? 'Nobody is on the page here, so this line does nothing.'
          : line.verb === 'add'
            ? 'This line does nothing: all of them are on already, or there are none.'
            : 'This line does nothing: it takes nobody out.',
    })
  if (line.verb === 'keep' && figures.unknown > 0 && figures.unknown / lost >= MOSTLY) {
    const share = Math.round((figures.unknown / lost) * 100)
    warnings.push({
      text: `${share} % of those this line takes out have nothing on record for it.`,
      instead: { ...line, unknownAsYes: true },
      offer: 'Count unknown as yes?',
    })
  }
  if (before > 0 && figures.balance === 0 && line.verb !== 'pick' && line.verb !== 'add')
    warnings.push({ text: 'This line leaves nobody.' })
  const contrary = contradicted(lines, at)
  if (contrary !== null) warnings.push({ text: `Line ${contrary + 1} says the contrary: nobody can be in both.` })
  return warnings
}

/** An earlier line that this one cannot be true with: the same question kept and dropped, or two keeps that have no value in common. */
function contradicted(lines: readonly Line[], at: number): number | null {
  const line = lines[at]
  if (!('criterion' in line) || line.verb === 'add') return null
  for (let i = at - 1; i > 0; i--) {
    const other = lines[i]
    if (!('criterion' in other) || other.off) continue
    // What an add takes in may be what the keep was for.
    if (other.verb === 'add') return null
    if (other.verb !== line.verb && sameLine({ ...other, verb: line.verb, unknownAsYes: line.unknownAsYes } as CriterionLine, line))
      return i
    if (
      other.verb === 'keep' &&
      line.verb === 'keep' &&
      !other.unknownAsYes &&
      !line.unknownAsYes &&
      disjoint(other.criterion, line.criterion)
    )
      return i
  }
  return null
}

function disjoint(a: Criterion, b: Criterion): boolean {
  if (a.kind !== b.kind) return false
  if (CRITERIA[a.kind].single) {
    const [one, two] = [(a as { any: string[] }).any.map((v) => v.toLowerCase()), (b as { any: string[] }).any.map((v) => v.toLowerCase())]
    return !one.some((value) => two.includes(value))
  }
  if ('least' in a && 'least' in b && typeof a.least !== 'string' && typeof b.least !== 'string' && a.kind !== 'custom') {
    const [x, y] = [a as { least: number | null; most: number | null }, b as { least: number | null; most: number | null }]
    return (x.most !== null && y.least !== null && x.most < y.least) || (y.most !== null && x.least !== null && y.most < x.least)
  }
  return false
}
