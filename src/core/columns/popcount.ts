/** Bits set in a 32-bit word. Source: H. S. Warren, Hacker's Delight, section 5-1. */
export function popcount(word: number): number {
  let v = (word - ((word >>> 1) & 0x55555555)) | 0
  v = (v & 0x33333333) + ((v >>> 2) & 0x33333333)
  return Math.imul((v + (v >>> 4)) & 0x0f0f0f0f, 0x01010101) >>> 24
}
