import { type Question, questionsOf, withQuestions } from '../criteria/registry'
import { criterionOf, type Line } from './line'

/** The territories that lines name, by their number. */
export const territoriesIn = (lines: readonly Line[]): number[] =>
  lines.flatMap((line) => {
    const criterion = criterionOf(line)
    const questions = criterion ? questionsOf(criterion) : []
    return questions.flatMap((asked) => (asked.kind === 'territory' ? asked.territories.map(({ id }) => id) : []))
  })

/** Lines with each question about territories replaced. */
function withTerritories(lines: readonly Line[], change: (asked: Extract<Question, { kind: 'territory' }>) => Question): Line[] {
  return lines.map((line) => {
    const criterion = criterionOf(line)
    if (!criterion || !questionsOf(criterion).some(({ kind }) => kind === 'territory')) return line
    return {
      ...line,
      criterion: withQuestions(criterion, (asked) => (asked.kind === 'territory' ? change(asked) : (asked as Question))),
    } as Line
  })
}

/** Lines with the postcodes of the territories they name, as these stand. Of one that is gone there are none. */
export const withPostcodes = (lines: readonly Line[], postcodesOf: ReadonlyMap<number, readonly string[]>): Line[] =>
  withTerritories(lines, (asked) => ({
    ...asked,
    postcodes: [...new Set(asked.territories.flatMap(({ id }) => postcodesOf.get(id) ?? []))],
  }))

/** Lines as they are kept: without the postcodes, which are those of the day on which they are asked. */
export const withoutPostcodes = (lines: readonly Line[]): Line[] => withTerritories(lines, ({ postcodes: _, ...kept }) => kept)
