import { beforeAll, expect, test } from 'vitest'
import { batchOf } from '@/usecases/intake/batch-for'
import { receiveFile } from '@/usecases/intake/receive-file'
import { runBatch } from '@/usecases/intake/run-batch'
import { settleRow } from '@/usecases/intake/settle-row'
import { tryBatch } from '@/usecases/intake/try-batch'
import { undoBatch } from '@/usecases/intake/undo-batch'
import { freshDatabase, type TestDatabase } from '../../support/database'
import { findPremises } from '@/usecases/directory/find-premises'
import { openPremises } from '@/usecases/directory/open-premises'
import { batchAccount } from '@/usecases/intake/batch-account'
import { batchRows } from '@/usecases/intake/batch-rows'
import { previewBatch } from '@/usecases/intake/preview-batch'
import { startBatch } from '@/usecases/intake/start-batch'
import { readAgain } from '@/usecases/intake/read-again'
import { runTrial } from '@/usecases/intake/run-trial'
import { runUndo } from '@/usecases/intake/run-undo'

let t: TestDatabase
beforeAll(async () => {
  t = await freshDatabase()
})
const feature = (id: string, at: [number, number] | null, properties: object) => ({
  type: 'Feature',
  id,
  geometry: at && { type: 'Point', coordinates: at },
  properties,
})
const BARNS = [
  feature('B1', [1.31, 55.21], {
    name: 'Otter Barn',
    kind: 'barn',
    street: '4 Mill Lane',
    town: 'Thornmouth',
    postcode: 'PW1 2AB',
    'roof area': 640,
    owner: 'Otter Estates Ltd',
    'owner kind': 'company',
  }),
  feature('B2', [1.32, 55.22], { name: 'Kiln Shed', kind: 'shed', roof: null }),
  feature('B3', null, { name: 'Nowhere Hall' }),
]
const collection = (features: object[]) => JSON.stringify({ type: 'FeatureCollection', features })
const received = (name: string, text: string) => receiveFile(t.ines, { name, bytes: Buffer.from(text) })
const broughtIn = async (id: number) => {
  await startBatch(t.ines, id, await batchOf(id), {})
  await runBatch(id)
  return (await batchAccount(t.ines, id)).counts
}

test('GeoJSON is premises: tried first, then in the directory with where they lie, found by their words', async () => {
  const id = await received('barns.geojson', collection(BARNS))
  expect(await batchOf(id)).toMatchObject({ kind: 'premises', reading: { format: 'geojson' } })
  await tryBatch(t.ines, id, await batchOf(id))
  await runTrial(id)
  expect((await batchOf(id)).trial).toMatchObject({ state: 'done', counts: { new: 2, refused: 1 } })
  expect((await findPremises(t.tam, '')).total).toBe(0)
  expect(await broughtIn(id)).toEqual({ new: 2, same: 0, updated: 0, 'in doubt': 0, refused: 1 })
  expect((await batchRows(t.ines, id, { outcome: 'refused' })).rows[0].reason).toBe('it says neither a whole address nor where it lies')
  const { premises, total } = await findPremises(t.tam, 'otter thornmouth')
  expect(total).toBe(1)
  expect(await openPremises(t.tam, premises[0].id)).toMatchObject({
    name: 'Otter Barn',
    outsideId: 'B1',
    position: { lat: 55.21, lon: 1.31 },
    roofArea: 640,
    ownerKind: 'company',
    postal: '4 Mill Lane, Thornmouth, PW1 2AB',
    ledger: [{ title: 'Came into the directory', detail: 'with barns.geojson' }],
  })
  await expect(openPremises(t.tam, 99999)).rejects.toThrow('no such premises')
})

test('known ones are updated with an entry each, and undoing puts them back; those it made are withdrawn', async () => {
  const csv =
    'Outside id,Name,Street,Town,Postcode,Latitude,Longitude,Roof area\nB1,,,,,55.215,1.31,700\n,Reed Works,9 Quay Street,Low Wendle,PW2 1ZZ,,,\n,Other Barn,4 Mill Lane,Thornmouth,PW1 2AB,,,\n'
  const id = await receiveFile(t.ines, { name: 'more.csv', bytes: Buffer.from(csv), kind: 'premises' })
  expect(await broughtIn(id)).toEqual({ new: 1, same: 0, updated: 1, 'in doubt': 1, refused: 0 })
  const [{ premises, changes }] = (await batchRows(t.ines, id, { outcome: 'updated' })).rows
  expect(changes).toEqual([
    { field: 'roof area', before: '640', after: '700' },
    { field: 'position', before: '55.21, 1.31', after: '55.215, 1.31' },
  ])
  const page = await openPremises(t.ines, premises?.id as number)
  expect(page).toMatchObject({ name: 'Otter Barn', position: { lat: 55.215, lon: 1.31 }, roofArea: 700 })
  expect(page.ledger.map((e) => e.title)).toEqual(expect.arrayContaining(['Position: 55.21, 1.31 → 55.215, 1.31', 'Roof area: 640 → 700']))
  // The roof was mended since, by another file: that stays.
  const later = await receiveFile(t.ines, {
    name: 'later.csv',
    bytes: Buffer.from('Outside id,Name,Street,Latitude,Longitude,Roof area\nB1,Otter Barn,,,,710\nB2,,,55.22,1.32,\n'),
    kind: 'premises',
  })
  expect(await broughtIn(later)).toMatchObject({ updated: 1, same: 1 })
  await undoBatch(t.ines, id)
  await runUndo(id)
  expect(await openPremises(t.ines, premises?.id as number)).toMatchObject({ position: { lat: 55.21, lon: 1.31 }, roofArea: 710 })
  expect((await batchAccount(t.ines, id)).undone?.counts).toMatchObject({ 'put back': 1, withdrawn: 1, 'nothing to undo': 1 })
  expect((await findPremises(t.ines, 'reed works')).total).toBe(0)
})

test('a row in doubt is decided: the premises it could be, or new ones', async () => {
  const id = await receiveFile(t.ines, {
    name: 'doubt.csv',
    bytes: Buffer.from(
      'Name,Street,Town,Postcode,Roof area\nOtter Annexe,4 Mill Lane,Thornmouth,PW1 2AB,80\nOtter Stable,4 Mill Ln,Thornmouth,PW1 2AB,90\n',
    ),
    kind: 'premises',
  })
  expect(await broughtIn(id)).toMatchObject({ 'in doubt': 2 })
  const [first, second] = (await batchRows(t.ines, id, { outcome: 'in doubt' })).rows
  expect(first.candidates).toMatchObject([{ name: 'Otter Barn', organisation: '4 Mill Lane, Thornmouth' }])
  await expect(settleRow(t.ines, id, first.row, { person: 999 })).rejects.toThrow('not among the possible matches')
  await settleRow(t.ines, id, first.row, 'new')
  await settleRow(t.ines, id, second.row, { person: second.candidates[0].id })
  expect((await batchAccount(t.ines, id)).counts).toMatchObject({ new: 1, updated: 1, 'in doubt': 0 })
  expect((await findPremises(t.ines, 'otter annexe')).total).toBe(1)
  expect(await openPremises(t.ines, second.candidates[0].id)).toMatchObject({ name: 'Otter Stable', roofArea: 90 })
})

test('coordinates that have changed places are told, and swapped when asked to', async () => {
  const id = await received(
    'swapped.geojson',
    collection(BARNS.slice(0, 2).map((f, i) => feature(`S${i}`, [55.3 + i, 1.4], { ...f.properties, name: `Swapped ${i}` }))),
  )
  expect((await batchOf(id)).choices).toEqual({ swappable: 2 })
  await readAgain(t.ines, id, { swapped: true })
  expect(await batchOf(id)).toMatchObject({ reading: { swapped: true }, choices: { swappable: 2 } })
  expect((await previewBatch(t.ines, id)).rows[0].stored).toMatchObject({ position: { lat: 55.3, lon: 1.4 } })
  expect((await batchOf(await received('right.geojson', collection(BARNS)))).choices).toEqual({})
})

test('GeoJSON that is broken, empty or no collection of features is refused with where it goes wrong', async () => {
  await expect(received('cut.geojson', collection(BARNS).slice(0, -60))).rejects.toThrow(/breaks off or goes wrong after feature \d/)
  await expect(received('none.geojson', collection([]))).rejects.toThrow('holds no features')
  await expect(received('odd.geojson', collection([{ type: 'Point', coordinates: [1, 2] }]))).rejects.toThrow(
    'Item 1 of the collection is not a feature',
  )
  expect(
    await batchOf(
      await received(
        'ring.geojson',
        collection([
          {
            type: 'Feature',
            geometry: {
              type: 'Polygon',
              coordinates: [
                [
                  [1, 2],
                  [1, 3],
                  [2, 3],
                  [1, 2],
                ],
              ],
            },
            properties: { name: 'Ring', deep: { roof: { kind: 'flat' } } },
          },
        ]),
      ),
    ),
  ).toMatchObject({
    header: ['Feature id', 'Geometry', 'Longitude', 'Latitude', 'name', 'deep.roof.kind'],
    first_rows: [['', 'Polygon', '', '', 'Ring', 'flat']],
  })
})
