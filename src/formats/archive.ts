import { createWriteStream } from 'node:fs'
import { Transform } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import yauzl from 'yauzl'
import { Unreadable } from './format'

/** Most files an archive may hold. */
const MOST_ENTRIES = 5000
/** Most bytes an archive may unpack to, all its files together. */
const MOST_UNPACKED = 2 * 1024 ** 3
/** Above this many times its packed size an archive is taken for one that was made to fill disks; small ones pass. */
const MOST_TIMES = 250
const SMALL = 64 * 1024 ** 2

export interface Entry {
  name: string
  size: number
}

/** The files in a ZIP archive (APPNOTE.TXT, PKWARE). Throws Unreadable where it is broken or unpacks to too much. */
export async function entriesOf(path: string): Promise<Entry[]> {
  return opened(path, async (zip, each) => {
    if (zip.entryCount > MOST_ENTRIES) throw new Unreadable(`The archive holds ${zip.entryCount.toLocaleString('en-GB')} files; at most ${MOST_ENTRIES.toLocaleString('en-GB')} are looked through. Nothing was stored.`)
    const entries: Entry[] = []
    let [packed, unpacked] = [0, 0]
    for await (const entry of each) {
      packed += entry.compressedSize
      unpacked += entry.uncompressedSize
      if (unpacked > MOST_UNPACKED || (unpacked > SMALL && unpacked > packed * MOST_TIMES)) throw new Unreadable(`The archive would unpack to more than ${Math.floor(unpacked / 1024 ** 2).toLocaleString('en-GB')} MB out of ${Math.ceil(packed / 1024 ** 2)} MB. Nothing of it was unpacked or stored.`)
      entries.push({ name: entry.fileName, size: entry.uncompressedSize })
    }
    return entries
  })
}

/** Unpacks one file of an archive into another file. Throws Unreadable where it is broken, locked or larger than it says. */
export async function unpack(path: string, name: string, into: string): Promise<void> {
  await opened(path, async (zip, each) => {
    for await (const entry of each) {
      if (entry.fileName !== name) continue
      if (entry.isEncrypted()) throw new Unreadable(`“${name}” in the archive is locked with a password. Unpack it, and bring in what is in it. Nothing was stored.`)
      // yauzl stops with an error where more bytes come than the entry says it has.
      const bytes = await new Promise<NodeJS.ReadableStream>((done, failed) => zip.openReadStream(entry, (error, stream) => (error ? failed(error) : done(stream))))
      return pipeline(bytes, new Transform({ transform: (chunk, _, next) => next(null, chunk) }), createWriteStream(into))
    }
    throw new Unreadable(`There is no file “${name}” in the archive any more.`)
  })
}

/** A small file of an archive as text; null where there is none. */
export async function textOf(path: string, name: string): Promise<string | null> {
  return opened(path, async (zip, each) => {
    for await (const entry of each) {
      if (entry.fileName !== name || entry.uncompressedSize > 8 * 1024 ** 2) continue
      const bytes = await new Promise<NodeJS.ReadableStream>((done, failed) => zip.openReadStream(entry, (error, stream) => (error ? failed(error) : done(stream))))
      const chunks: Buffer[] = []
      for await (const chunk of bytes) chunks.push(chunk as Buffer)
      return Buffer.concat(chunks).toString('utf8')
    }
    return null
  })
}

async function opened<T>(path: string, work: (zip: yauzl.ZipFile, each: AsyncIterable<yauzl.Entry>) => Promise<T>): Promise<T> {
  const broken = (error: Error) => new Unreadable(`The archive is broken (${error.message}). Nothing was stored.`)
  const zip = await new Promise<yauzl.ZipFile>((done, failed) => yauzl.open(path, { lazyEntries: true, autoClose: false }, (error, file) => (error ? failed(broken(error)) : done(file))))
  try {
    return await work(zip, entries(zip))
  } catch (error) {
    if (error instanceof Unreadable || (error as { code?: string }).code === 'ENOSPC') throw error
    throw broken(error as Error)
  } finally {
    zip.close()
  }
}

async function* entries(zip: yauzl.ZipFile): AsyncGenerator<yauzl.Entry> {
  for (;;) {
    const entry = await new Promise<yauzl.Entry | null>((done, failed) => {
      const clear = () => zip.off('entry', one).off('end', end).off('error', bad)
      const one = (next: yauzl.Entry) => (clear(), done(next))
      const end = () => (clear(), done(null))
      const bad = (error: Error) => (clear(), failed(error))
      zip.on('entry', one).on('end', end).on('error', bad)
      zip.readEntry()
    })
    if (!entry) return
    yield entry
  }
}
