import { createHash } from 'node:crypto'
import { text } from 'node:stream/consumers'
import yauzl, { type Entry } from 'yauzl'
import { beforeAll, expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import { erasePerson } from '@/usecases/directory/erase-person'
import { createList } from '@/usecases/lists/create-list'
import { allRoundFiles } from '@/usecases/rounds/all-round-files'
import { openRound } from '@/usecases/rounds/open-round'
import { releaseRound } from '@/usecases/rounds/release-round'
import { roundFile } from '@/usecases/rounds/round-file'
import { startRound } from '@/usecases/rounds/start-round'
import { suppress } from '@/usecases/screening/suppress'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'

let t: TestDatabase
let round: number
const start: Line = { id: 's', verb: 'start', off: false, batch: null }
const id = async (name: string): Promise<number> => (await t.app('person').where({ name }).first('id')).id

beforeAll(async () => {
  t = await freshDatabase()
  await startEngine(t)
  await broughtIn(t.ines, 'z.csv', 'Id,Name,Email,Phone\nZ1,Ada Zip,ada@zip.example,0113 496 0101\nZ2,Ben Zip,ben@zip.example,\n')
  const list = await createList(t.ines, 'Zipped', true, [start])
  round = await startRound(t.ines, list)
  await expect(allRoundFiles(t.ines, round)).rejects.toThrow(/not released/)
  await releaseRound(t.ines, round)
})

/** The files of an archive by name, read by another library than wrote them. */
async function unzipped(bytes: Buffer): Promise<Record<string, string>> {
  const zip = await yauzl.fromBufferPromise(bytes)
  const found: Record<string, string> = {}
  for await (const entry of zip.eachEntry() as AsyncIterable<Entry>)
    found[entry.fileName] = await text(await zip.openReadStreamPromise(entry))
  return found
}

test('all files of a round are one archive with a manifest that holds, and come byte for byte again', async () => {
  const { bytes, name } = await allRoundFiles(t.ines, round)
  expect(name).toBe('round-1.zip')
  const files = await unzipped(bytes)
  const manifest = JSON.parse(files['manifest.json'])
  expect(manifest).toMatchObject({
    list: 'Zipped',
    round: 1,
    edition: 1,
    policy: { name: 'Team policy', edition: 1 },
    releasedBy: 'Ines Okafor',
    withdrawn: [],
  })
  for (const { name: file, sha256, channel } of manifest.files) {
    expect(createHash('sha256').update(files[file]).digest('hex')).toBe(sha256)
    expect(files[file]).toBe((await roundFile(t.ines, round, channel)).bytes.toString())
  }
  expect(Object.keys(files).filter((file) => file.endsWith('.csv')).length).toBe(manifest.files.length)
  expect(Object.keys(files)).toContain('round-1-csv-metadata.json')
  expect((await allRoundFiles(t.tam, round)).bytes.equals(bytes)).toBe(true)
})

test('files that were taken in other layouts are in it, each once, as they were handed over', async () => {
  const layout = (format: string, heading: string) => ({ format, columns: [{ of: 'Email', heading }] })
  const handed = []
  for (const own of [layout('csv', 'Mail'), layout('csv', 'To'), layout('jsonl', 'Mail'), layout('csv', 'Mail')])
    handed.push(await roundFile(t.ines, round, 'email', { layout: own }))
  const { bytes } = await allRoundFiles(t.ines, round)
  const files = await unzipped(bytes)
  const { otherLayouts } = JSON.parse(files['manifest.json'])
  expect(otherLayouts).toHaveLength(3)
  expect(new Set(otherLayouts.map((own: { sha256: string }) => own.sha256))).toEqual(new Set(handed.map(({ sha256 }) => sha256)))
  for (const { name, sha256, rows } of otherLayouts) {
    expect(name).toMatch(/^other-layouts\//)
    expect(createHash('sha256').update(files[name]).digest('hex')).toBe(sha256)
    expect(rows).toBe(2)
  }
  expect((await allRoundFiles(t.tam, round)).bytes.equals(bytes)).toBe(true)
})

test('whoever opts out is in it no more, and who took it is named; what is withdrawn is not in it', async () => {
  await suppress(t.tam, { person: await id('Ben Zip') }, { reason: 'opt-out', channels: ['email'], word: 'a reply' })
  const files = await unzipped((await allRoundFiles(t.ines, round)).bytes)
  expect(Object.entries(files).find(([name]) => name.includes('email'))?.[1]).not.toContain('Ben Zip')
  // The manifest and the details say the rows and the checksum that the file has now, and how many are left out.
  const { files: said } = JSON.parse(files['manifest.json'])
  expect(said.find(({ channel }: { channel: string }) => channel === 'email')).toMatchObject({ rows: 1, leftOut: 1 })
  const details = JSON.parse(files['round-1-csv-metadata.json'])
  expect(details.tables.map((own: Record<string, unknown>) => [own.url, own['dc:extent'], own['schema:sha256']])).toEqual(
    said.map((own: Record<string, unknown>) => [own.name, own.rows, own.sha256]),
  )
  const { stopped } = await openRound(t.ines, round)
  expect(stopped[0].takenBy.map(({ name }) => name)).toContain('Tam Reyes')
  await erasePerson({ ...t.ines, post: 'manager' }, await id('Ada Zip'))
  const left = JSON.parse((await unzipped((await allRoundFiles(t.ines, round)).bytes))['manifest.json'])
  expect(left.withdrawn).toEqual(['email', 'phone'])
  expect(left.files.map(({ channel }: { channel: string }) => channel)).toEqual(['post', 'direct'])
})
