import { erasePerson } from '@/usecases/directory/erase-person'
import { proofOf } from '@/usecases/directory/proof'
import { app, ines, record, timed } from './measuring'

/** Why somebody was contacted, and the erasure of everything about somebody, for people with many contacts and for any. */
export async function proofs(): Promise<void> {
  const { rows } = await app.raw(
    `select p.id, to_char(f.last_at, 'YYYY-MM-DD') as day from facts f join person p on p.id = f.person_id and p.state = 'live'
     where f.last_at is not null order by md5(p.id::text) limit 30`,
  )
  const people: { id: number; day: string }[] = rows
  const whys: number[] = []
  for (const { id, day } of people) whys.push((await timed(() => proofOf(ines, id, day)))[0])
  record('why was I contacted', whys, '1 s')
  const erasures: number[] = []
  for (const { id } of people.slice(0, 10)) erasures.push((await timed(() => erasePerson({ ...ines, post: 'manager' }, id)))[0])
  record('an erasure', erasures, '5 s')
}
