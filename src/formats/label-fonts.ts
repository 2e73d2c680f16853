import { join } from 'node:path'
import anyAscii from 'any-ascii'
import type { Font } from 'fontkit'
import * as fontkit from 'fontkit'

/** Fonts that ship with the application, the first that has a letter prints it: Latin, Greek, Cyrillic, Georgian and Armenian. */
const FILES = [
  '@fontsource/noto-sans/files/noto-sans-latin-400-normal.woff',
  '@fontsource/noto-sans/files/noto-sans-latin-ext-400-normal.woff',
  '@fontsource/noto-sans/files/noto-sans-cyrillic-400-normal.woff',
  '@fontsource/noto-sans/files/noto-sans-cyrillic-ext-400-normal.woff',
  '@fontsource/noto-sans/files/noto-sans-greek-400-normal.woff',
  '@fontsource/noto-sans/files/noto-sans-greek-ext-400-normal.woff',
  '@fontsource/noto-sans/files/noto-sans-vietnamese-400-normal.woff',
  '@fontsource/noto-sans-georgian/files/noto-sans-georgian-georgian-400-normal.woff',
  '@fontsource/noto-sans-armenian/files/noto-sans-armenian-armenian-400-normal.woff',
]

/** A part of a text that one font prints. */
export interface Run {
  font: number
  text: string
}

/** The fonts of labels: what they can print, how wide it is, and where their files are. */
export class LabelFonts {
  readonly paths = FILES.map((file) => join(/* turbopackIgnore: true */ process.cwd(), 'node_modules', file))
  private readonly fonts = this.paths.map((path) => fontkit.openSync(path) as Font)
  private readonly known = new Map<number, { font: number; width: number } | null>()

  private of(point: number): { font: number; width: number } | null {
    let own = this.known.get(point)
    if (own === undefined) {
      const font = this.fonts.findIndex((f) => f.hasGlyphForCodePoint(point))
      own = font < 0 ? null : { font, width: this.fonts[font].glyphForCodePoint(point).advanceWidth / this.fonts[font].unitsPerEm }
      this.known.set(point, own)
    }
    return own
  }

  /** A text of which every letter can be printed: letters that no font has are spelled in Latin ones, and pictures are left out. */
  printable(text: string): string {
    let printed = ''
    for (const letter of text.normalize('NFC')) {
      if (this.of(letter.codePointAt(0) as number) || /\s/.test(letter)) printed += letter
      // Marks that join letters or choose between pictures, and pictures.
      else if (!/[\p{Cf}\p{Mn}\p{Extended_Pictographic}\u{1f1e6}-\u{1f1ff}\u{1f3fb}-\u{1f3ff}]/u.test(letter)) printed += anyAscii(letter)
    }
    return printed.replace(/\s+/g, ' ').trim()
  }

  /** How wide a printable text is at a size of one point. */
  width(text: string): number {
    let width = 0
    for (const letter of text) width += this.of(letter.codePointAt(0) as number)?.width ?? 0
    return width
  }

  /** A printable text cut where another font has to go on. */
  runs(text: string): Run[] {
    const runs: Run[] = []
    for (const letter of text) {
      const last = runs.at(-1)
      // A blank goes on in the font before it.
      const font = letter === ' ' && last ? last.font : (this.of(letter.codePointAt(0) as number)?.font ?? 0)
      if (last?.font === font) last.text += letter
      else runs.push({ font, text: letter })
    }
    return runs
  }
}
