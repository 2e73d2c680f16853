import { countText } from '../text/written'
/** Bands between some borders: under the first, between each two, the last or more. */
export function bandsBetween(borders: readonly number[], unit: string): (readonly [string, number])[] {
  const text = (value: number) => (unit === '' ? String(value) : countText(value))
  return [
    [unit === '' ? `before ${borders[0]}` : `under ${text(borders[0])}${unit}`, Number.NEGATIVE_INFINITY],
    ...borders.map((from, i): readonly [string, number] =>
      i + 1 < borders.length
        ? [`${text(from)} to ${text(borders[i + 1] - 1)}${unit}`, from]
        : [unit === '' ? `${from} or later` : `${text(from)}${unit} or more`, from],
    ),
  ]
}
