import { connect } from '@/db/connection'
import { ReadModel } from '@/engine/read-model'
import { personRecords } from '@/db/person-records'
import { PARTS } from '@/db/person-parts'
const db = connect(process.env.APP_DATABASE_URL as string, 2)
let t = performance.now()
const m = new ReadModel(db)
await m.catchUp()
console.log('all', performance.now() - t, process.memoryUsage().rss / 1e6)
for (const count of [1, 1000, 1000]) {
  t = performance.now()
  const ids = Array.from({ length: count }, (_, i) => i + 1)
  await db.transaction((trx) => personRecords(trx, ids))
  console.log('some', count, performance.now() - t)
  for (const [name, { sql, own, order }] of Object.entries(PARTS)) {
    t = performance.now()
    const query = `${sql.replaceAll('{where}', `${own} = any(?::bigint[])`)} order by ${order}`
    await db.raw(query, Array.from({ length: query.split('?').length - 1 }, () => ids) as never)
    console.log('  ', name, (performance.now() - t).toFixed(1))
  }
}
for (let i = 0; i < 3; i++) { t = performance.now(); await m.catchUp(); console.log('catch up', performance.now() - t) }
await db.destroy()
