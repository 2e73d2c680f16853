import { open } from 'node:fs/promises'
import { detect } from 'chardet'
import iconv from 'iconv-lite'
import { nothingStored, Unreadable } from './format'

/** How much of a file is looked at to find its encoding, in bytes. */
const LOOKED_AT = 1024 * 1024

/** The first bytes of a file, at most so many. */
export async function headOf(path: string, length = LOOKED_AT): Promise<Buffer> {
  const file = await open(path)
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(length), 0, length, 0)
    return buffer.subarray(0, bytesRead)
  } finally {
    await file.close()
  }
}

/** The encoding of a text by its first bytes. Throws Unreadable where they are no text. */
export function encodingOf(head: Buffer): string {
  if (head.subarray(0, 4096).includes(0) && !(head[0] === 0xff && head[1] === 0xfe) && !(head[0] === 0xfe && head[1] === 0xff)) {
    throw new Unreadable(`The file is not text: it has zero bytes in it. Save it as CSV from the program it comes from. ${nothingStored}`)
  }
  const found = detect(head) ?? 'UTF-8'
  return iconv.encodingExists(found) ? found : 'UTF-8'
}
