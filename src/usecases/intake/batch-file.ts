import { createHash } from 'node:crypto'
import { createReadStream, createWriteStream } from 'node:fs'
import { open, rm } from 'node:fs/promises'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { db, type Knex } from '@/db/connection'
import { tempFolder } from '@/runtime/temp-folder'
import { Refused } from '@/usecases/team/actor'

/** Largest file that is taken, in bytes. */
export const LARGEST_FILE = 500 * 1024 ** 2
/** A file is kept in parts of so many bytes. */
const PART = 4 * 1024 ** 2

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

/** The file of a batch, byte for byte as it came, for as long as somebody works with it. */
export async function withFileOf<T>(batch: number, work: (path: string) => Promise<T>): Promise<T> {
  return inFolder(async (path) => {
    const { size } = await db()('batch_file').where({ batch_id: batch }).first('size')
    async function* parts(): AsyncGenerator<Buffer> {
      for (let part = 0, read = 0; read < Number(size); part++) {
        const { bytes } = await db()('batch_file_part').where({ batch_id: batch, part }).first('bytes')
        read += bytes.length
        yield bytes
      }
    }
    await pipeline(Readable.from(parts()), createWriteStream(path))
    return work(path)
  })
}

/** Keeps a file with its batch, in parts. */
export async function keepFile(trx: Knex, batch: number, path: string, { size, sha256 }: { size: number; sha256: string }): Promise<void> {
  await trx('batch_file').insert({ batch_id: batch, sha256, size })
  const file = await open(path)
  try {
    for (let part = 0, at = 0; at < size; part++) {
      const { buffer, bytesRead } = await file.read(Buffer.alloc(Math.min(PART, size - at)), 0, undefined, at)
      await trx('batch_file_part').insert({ batch_id: batch, part, bytes: buffer.subarray(0, bytesRead) })
      at += bytesRead
    }
  } finally {
    await file.close()
  }
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

async function inFolder<T>(work: (path: string) => Promise<T>): Promise<T> {
  const folder = await tempFolder('file')
  try {
    return await work(join(folder, 'file'))
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}
