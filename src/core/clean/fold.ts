import anyAscii from 'any-ascii'

/** ASCII but for control characters. */
const PLAIN = /^[\x20-\x7e]*$/
/** Letters of the Latin script that no mark can be taken off: ø, đ, þ, ħ, ı and the like. */
const STROKED = /(?![\x20-\x7e])\p{Script=Latin}/gu

/**
 * The one place where text is made comparable: compatibility-normalised (Unicode NFKD), accents and other marks taken
 * off, case-folded, Latin letters that are written in one stroke spelt in ASCII, apostrophes dropped, every other run of marks or
 * blanks made one space. Other scripts stay as they are: spelt in Latin, different names would read the same.
 */
export function fold(text: string): string {
  // Most text is plain, and none of the rest would change it.
  if (PLAIN.test(text)) return plain(text)
  return text
    .normalize('NFKD')
    .replace(/\p{M}+/gu, '')
    .toLowerCase()
    .replace(/\p{M}+/gu, '')
    .replace(STROKED, (letter) => anyAscii(letter).toLowerCase())
    .replace(/['’ʼ`]/g, '')
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim()
}

const plain = (text: string): string =>
  text
    .toLowerCase()
    .replace(/['`]/g, '')
    .replace(/[^a-z0-9]+/g, ' ')
    .trim()

/**
 * How texts were folded from the beginning, with fewer letters spelt out. The first keys of postal addresses were made of it, and a
 * key that a suppression goes by never changes.
 */
export function firstFold(text: string): string {
  if (PLAIN.test(text)) return plain(text)
  return text
    .normalize('NFKD')
    .replace(/\p{M}+/gu, '')
    .toLowerCase()
    .replace(/ß/g, 'ss')
    .replace(/ø/g, 'o')
    .replace(/ł/g, 'l')
    .replace(/æ/g, 'ae')
    .replace(/œ/g, 'oe')
    .replace(/['’ʼ`]/g, '')
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim()
}

/** A name in Latin letters, whatever script it is written in, to be held against one that is: *Мария* reads *mariia*. Two different names may read the same. */
export function inLatin(folded: string): string {
  return PLAIN.test(folded) ? folded : plain(anyAscii(folded))
}
