import { createWriteStream } from 'node:fs'
import { pipeline } from 'node:stream/promises'
import yauzl from 'yauzl'
import { Unreadable } from './format'
import { countText } from '@/core/text/written'

/** Most files an archive may hold. */
const MOST_ENTRIES = 5000
/** Most bytes an archive may unpack to, all its files together. */
const MOST_UNPACKED = 2 * 1024 ** 3
/** Above this many times its packed size an archive is taken for one that was made to fill disks; small ones pass. */
const MOST_TIMES = 250
const SMALL = 64 * 1024 ** 2

/** The names of the files in a ZIP archive (APPNOTE.TXT, PKWARE). Throws Unreadable where it is broken or unpacks to too much. */
export function entriesOf(path: string): Promise<string[]> {
  return opened(path, async (zip) => {
    if (zip.entryCount > MOST_ENTRIES)
      throw new Unreadable(
        `The archive holds ${countText(zip.entryCount)} files; at most ${countText(MOST_ENTRIES)} are looked through. Nothing was stored.`,
      )
    const names: string[] = []
    let [packed, unpacked] = [0, 0]
    for await (const entry of zip.eachEntry()) {
      packed += entry.compressedSize
      unpacked += entry.uncompressedSize
      if (unpacked > MOST_UNPACKED || (unpacked > SMALL && unpacked > packed * MOST_TIMES)) {
        throw new Unreadable(
          `The archive would unpack from ${Math.ceil(packed / 1024 ** 2)} MB to more than ${countText(Math.floor(unpacked / 1024 ** 2))} MB. Nothing of it was unpacked or stored.`,
        )
      }
      names.push(entry.fileName)
    }
    return names
  })
}

/** Unpacks one file of an archive into another file. Throws Unreadable where it is broken, locked or larger than it says. */
export function unpack(path: string, name: string, into: string): Promise<void> {
  return opened(path, async (zip) => {
    const entry = await found(zip, name)
    if (!entry) throw new Unreadable(`There is no file “${name}” in the archive.`)
    if (entry.isEncrypted())
      throw new Unreadable(`“${name}” in the archive is locked with a password. Unpack it, and bring in what is in it. Nothing was stored.`)
    // yauzl stops with an error where other bytes come than the entry says it has.
    await pipeline(await zip.openReadStreamPromise(entry), createWriteStream(into))
  })
}

async function found(zip: yauzl.ZipFile, name: string): Promise<yauzl.Entry | null> {
  for await (const entry of zip.eachEntry()) if (entry.fileName === name) return entry
  return null
}

async function opened<T>(path: string, work: (zip: yauzl.ZipFile) => Promise<T>): Promise<T> {
  let zip: yauzl.ZipFile | undefined
  try {
    zip = await yauzl.openPromise(path, { autoClose: false })
    return await work(zip)
  } catch (error) {
    if (error instanceof Unreadable || (error as { code?: string }).code === 'ENOSPC') throw error
    throw new Unreadable(`The archive is broken (${(error as Error).message}). Nothing was stored.`)
  } finally {
    zip?.close()
  }
}
