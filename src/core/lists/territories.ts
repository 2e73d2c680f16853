import { criterionOf, type Line } from './line'

/** The territories that lines name, by their number. */
export const territoriesIn = (lines: readonly Line[]): number[] =>
  lines.flatMap((line) => {
    const criterion = criterionOf(line)
    return criterion?.kind === 'territory' ? criterion.territories.map(({ id }) => id) : []
  })

/** Lines with the postcodes of the territories they name, as these stand. Of one that is gone there are none. */
export function withPostcodes(lines: readonly Line[], postcodesOf: ReadonlyMap<number, readonly string[]>): Line[] {
  return lines.map((line) => {
    const criterion = criterionOf(line)
    if (criterion?.kind !== 'territory') return line
    const postcodes = [...new Set(criterion.territories.flatMap(({ id }) => postcodesOf.get(id) ?? []))]
    return { ...line, criterion: { ...criterion, postcodes } } as Line
  })
}

/** Lines as they are kept: without the postcodes, which are those of the day on which they are asked. */
export const withoutPostcodes = (lines: readonly Line[]): Line[] =>
  lines.map((line) => {
    const criterion = criterionOf(line)
    if (criterion?.kind !== 'territory') return line
    const { postcodes: _, ...kept } = criterion
    return { ...line, criterion: kept } as Line
  })
