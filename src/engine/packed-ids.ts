import { deflateRawSync, inflateRawSync } from 'node:zlib'

/** Ids packed small: sorted, each as its distance from the one before in groups of seven bits, deflated (RFC 1951). */
export function packIds(ids: ArrayLike<number>): Buffer {
  const sorted = Float64Array.from(ids).sort()
  const bytes = Buffer.alloc(sorted.length * 8)
  let at = 0
  let before = 0
  for (const id of sorted) {
    let rest = id - before
    before = id
    while (rest >= 128) {
      bytes[at++] = (rest % 128) | 128
      rest = Math.floor(rest / 128)
    }
    bytes[at++] = rest
  }
  return deflateRawSync(bytes.subarray(0, at))
}

/** The ids that were packed, ascending. Throws where the bytes are not packed ids. */
export function unpackIds(packed: Buffer): number[] {
  const ids: number[] = []
  let before = 0
  let value = 0
  let weight = 1
  for (const byte of inflateRawSync(packed)) {
    value += (byte & 127) * weight
    weight *= 128
    if (byte & 128) continue
    before += value
    ids.push(before)
    value = 0
    weight = 1
  }
  return ids
}
