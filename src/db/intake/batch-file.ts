import { createWriteStream } from 'node:fs'
import { open, rm } from 'node:fs/promises'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { db, type Knex } from '@/db/connection'
import { join } from 'node:path'
import { tempFolder } from '@/runtime/temp-folder'

/** The file of a batch, byte for byte as it came, for as long as somebody works with it. */
export async function withFileOf<T>(batch: number, work: (path: string) => Promise<T>): Promise<T> {
  return inFolder(async (path) => {
    const { size, withdrawn_at } = await db()('batch_file').where({ batch_id: batch }).first('size', 'withdrawn_at')
    if (withdrawn_at) throw new Error('The file was withdrawn, since somebody in it was erased on request. Upload it again without them.')
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

/** A file is kept in parts of so many bytes. */
export const PART = 4 * 1024 ** 2

/** Gives `work` the path of a file in a folder of its own, and removes the folder afterwards, also when `work` fails. */
export async function inFolder<T>(work: (path: string) => Promise<T>): Promise<T> {
  const folder = await tempFolder('file')
  try {
    return await work(join(folder, 'file'))
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}
