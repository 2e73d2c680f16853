/** ASCII but for control characters. */
const PLAIN = /^[\x20-\x7e]*$/

/**
 * The one place where text is made comparable: compatibility-normalised (Unicode NFKD), accents and other marks taken
 * off, case-folded, apostrophes dropped, every other run of marks or blanks made one space.
 */
export function fold(text: string): string {
  // Most text is plain, and none of the rest would change it.
  if (PLAIN.test(text)) return text.toLowerCase().replace(/['`]/g, '').replace(/[^a-z0-9]+/g, ' ').trim()
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
