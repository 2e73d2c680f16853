/** Lines as they are printed: broken to fit, at the largest size that holds them all. */
export interface FittedLines {
  lines: string[]
  /** In points. */
  size: number
}

/** Sizes that are tried, in points: the largest that is common on labels, down to the smallest that can still be read. */
const SIZES = [11, 10, 9, 8, 7, 6, 5, 4, 3]
/** From one baseline to the next, in sizes. */
export const LEADING = 1.2

/**
 * Lines fitted into a box of points, never cut: at each size lines that are too long are broken between words, and at the smallest
 * within words. `width` measures a text at a size of one point.
 */
export function fitLines(lines: readonly string[], box: { width: number; height: number }, width: (text: string) => number): FittedLines {
  for (const size of SIZES) {
    const last = size === SIZES[SIZES.length - 1]
    const broken = lines.flatMap((line) => wrapped(line, box.width / size, width, last))
    if (broken.every((line) => line !== null) && (last || broken.length * LEADING * size <= box.height))
      return { lines: broken as string[], size: last ? Math.min(size, box.height / (broken.length * LEADING)) : size }
  }
  return { lines: [...lines], size: SIZES[SIZES.length - 1] }
}

/** A line broken between words; a null among them where a word alone is too long and must not be broken. */
function wrapped(line: string, most: number, width: (text: string) => number, within: boolean): (string | null)[] {
  if (width(line) <= most) return [line]
  const broken: (string | null)[] = []
  let now = ''
  for (const word of line.split(/\s+/)) {
    const longer = now === '' ? word : `${now} ${word}`
    if (width(longer) <= most) {
      now = longer
      continue
    }
    if (now !== '') broken.push(now)
    now = word
    if (width(word) <= most) continue
    if (!within) {
      broken.push(null)
      now = ''
      continue
    }
    // The smallest size: letters are kept whole, not words.
    now = ''
    for (const letter of new Intl.Segmenter().segment(word)) {
      if (now !== '' && width(now + letter.segment) > most) {
        broken.push(now)
        now = ''
      }
      now += letter.segment
    }
  }
  if (now !== '') broken.push(now)
  return broken
}
