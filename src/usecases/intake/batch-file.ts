import { createHash } from 'node:crypto'
import { createReadStream, createWriteStream } from 'node:fs'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { Refused } from '@/usecases/team/actor'
import { inFolder } from '@/db/intake/batch-file'

/** Largest file that is taken, in bytes. */
export const LARGEST_FILE = 500 * 1024 ** 2

/** Puts what comes in into a file of its own for as long as somebody works with it. Refuses what is too large once that shows. */
export async function withIncoming<T>(bytes: AsyncIterable<Uint8Array>, work: (path: string) => Promise<T>): Promise<T> {
  return inFolder(async (path) => {
    let size = 0
    async function* limited(): AsyncGenerator<Uint8Array> {
      for await (const chunk of bytes) {
        size += chunk.length
        if (size > LARGEST_FILE)
          throw new Refused(
            `The file is larger than ${LARGEST_FILE / 1024 ** 2} MB. Split it and bring in the parts one after the other. Nothing was stored.`,
          )
        yield chunk
      }
    }
    await pipeline(Readable.from(limited()), createWriteStream(path))
    return work(path)
  })
}

/** SHA-256 of a file and its size in bytes. */
export async function fingerprint(path: string): Promise<{ size: number; sha256: string }> {
  const hash = createHash('sha256')
  let size = 0
  for await (const chunk of createReadStream(path)) {
    hash.update(chunk as Buffer)
    size += (chunk as Buffer).length
  }
  return { size, sha256: hash.digest('hex') }
}
