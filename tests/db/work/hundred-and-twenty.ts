import { beforeAll } from 'vitest'
import type { serveEngine } from '@/engine/server'
import { broughtIn, freshDatabase, type TestDatabase } from '../../support/database'
import { startEngine } from '../../support/engine'

export let t: TestDatabase
export let engine: Awaited<ReturnType<typeof serveEngine>>
beforeAll(async () => {
  t = await freshDatabase()
  const rows = Array.from(
    { length: 120 },
    (_, i) =>
      `E${i},Engine Number${i},${['Estates lead', 'Bursar', '', 'Trainee estates officer'][i % 4]},Org ${i % 7},e${i % 100}@example.org,0113 496 0${String(i % 60).padStart(3, '0')},${i} Mill Lane,${['Thornmouth', 'Low Wendle', ''][i % 3]},PW1 2AB,${['prospect', 'customer', ''][i % 3]}`,
  )
  await broughtIn(t.ines, 'people.csv', `Id,Name,Role,Organisation,Email,Phone,Address,Town,Postcode,Status\n${rows.join('\n')}\n`, {
    byKeysAlone: true,
  })
  engine = await startEngine(t)
})
