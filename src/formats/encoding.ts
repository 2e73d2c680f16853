import { createReadStream } from 'node:fs'
import { open } from 'node:fs/promises'
import { analyse } from 'chardet'
import iconv from 'iconv-lite'
import { nothingStored, Unreadable } from './format'

/** How much is kept of what tells encodings apart, in bytes. */
const SAMPLE = 256 * 1024
/** So many bytes around each letter that is not plain ASCII tell which language and encoding it is of. */
const AROUND = 80

/** The first bytes of a file, at most so many. */
export async function headOf(path: string, length = 1024 * 1024): Promise<Buffer> {
  const file = await open(path)
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(length), 0, length, 0)
    return buffer.subarray(0, bytesRead)
  } finally {
    await file.close()
  }
}

/**
 * Returns the encoding of a text by all of its bytes: UTF-16 by its mark, or by its zeros; UTF-8 where all of it is, or nearly all
 * that is not ASCII; else what its letters are likeliest to be. Throws Unreadable where it is no text.
 */
export async function encodingOf(path: string): Promise<string> {
  const head = await headOf(path, 4096)
  if (head[0] === 0xff && head[1] === 0xfe) return 'UTF-16LE'
  if (head[0] === 0xfe && head[1] === 0xff) return 'UTF-16BE'
  if (head.includes(0)) {
    const zeros = (of: 0 | 1) => head.filter((byte, i) => i % 2 === of && byte === 0).length
    // Text of one byte in UTF-16 is half zeros, all of them on one side.
    if (zeros(1) > head.length / 4 && zeros(0) === 0) return 'UTF-16LE'
    if (zeros(0) > head.length / 4 && zeros(1) === 0) return 'UTF-16BE'
    throw new Unreadable(`The file is not text: it has zero bytes in it. Save it as CSV from the program it comes from. ${nothingStored}`)
  }
  const { letters, broken, sample } = await looked(path)
  // By accident bytes of another encoding hardly ever make up letters of this one.
  if (broken === 0 || letters >= 2 * broken) return 'UTF-8'
  const found = analyse(sample).find(
    ({ name }) => name !== 'UTF-8' && !name.startsWith('UTF-') && name !== 'ASCII' && iconv.encodingExists(name),
  )
  return found?.name ?? 'windows-1252'
}

/** Goes through a whole file: how many letters in it are not ASCII, how many bytes no UTF-8 could be, and what stands around them. */
async function looked(path: string): Promise<{ letters: number; broken: number; sample: Buffer }> {
  const decoder = new TextDecoder('utf-8')
  const kept: Buffer[] = []
  let [letters, broken, size] = [0, 0, 0]
  const count = (text: string) => {
    for (let i = 0; i < text.length; i++) {
      const code = text.charCodeAt(i)
      if (code === 0xfffd) broken++
      else if (code > 0x7f) letters++
    }
  }
  for await (const chunk of createReadStream(path, { highWaterMark: 256 * 1024 }) as AsyncIterable<Buffer>) {
    count(decoder.decode(chunk, { stream: true }))
    for (let at = 0; size < SAMPLE && at < chunk.length; ) {
      const high = chunk.subarray(at).findIndex((byte) => byte > 0x7f)
      if (high < 0) break
      const piece = chunk.subarray(Math.max(at, at + high - AROUND), at + high + AROUND)
      kept.push(Buffer.from(piece))
      size += piece.length
      at += high + AROUND
    }
  }
  count(decoder.decode())
  return { letters, broken, sample: Buffer.concat(kept) }
}
