import type { AreaShape } from '@/core/areas/shape'
import { verdict } from '@/core/criteria/registry'
import type { Moment } from '@/core/criteria/kind'
import type { Line } from '@/core/lists/line'
import type { Knex } from '@/db/connection'
import { organisationRecords, premisesRecords } from '@/db/directory/organisation-and-premises-rows'
import { personRecords } from '@/db/directory/person-records'
import type { Seeded } from './lists'

/** So many records are asked one by one. */
const SAMPLE = 200

/**
 * Asks the reference, one record at a time, where some people stand, and compares it with the codes the engine gave (0 never,
 * 1 on, 2 + 2i left out by line i, 3 + 2i unknown to it). Throws where they differ.
 */
export async function decidedOnOne(
  db: Knex,
  lines: Line[],
  areas: ReadonlyMap<number, AreaShape>,
  moment: Moment,
  ids: Int32Array,
  codes: Uint8Array,
  random: Seeded,
): Promise<void> {
  const places = Array.from({ length: SAMPLE }, () => random.below(ids.length))
  const people = (
    await personRecords(
      db,
      places.map((i) => ids[i]),
    )
  ).map(({ record }) => record)
  const organisations = new Map(
    (await organisationRecords(db, [...new Set(people.flatMap((p) => p.organisation ?? []))]))
      .filter((o) => o.live)
      .map(({ record }) => [record.id, record]),
  )
  const premises = new Map(
    (await premisesRecords(db, [...new Set(people.flatMap((p) => p.premises ?? []))]))
      .filter((p) => p.live)
      .map(({ record }) => [record.id, record]),
  )
  for (const person of people) {
    const record = {
      ...person,
      employer: organisations.get(person.organisation ?? -1) ?? null,
      at: premises.get(person.premises ?? -1) ?? null,
    }
    let stands = 0
    for (const [i, line] of lines.entries()) {
      if (!('criterion' in line)) continue
      const said = verdict(line.criterion, record, { ...moment, areas })
      if (line.verb === 'drop' ? said === 'yes' : said !== 'yes') {
        stands = line.verb === 'keep' && said === 'unknown' ? 3 + 2 * i : 2 + 2 * i
        break
      }
    }
    const code = codes[ids.indexOf(person.id)]
    if (code !== stands) throw new Error(`the engine says ${code} of ${person.id}, the reference ${stands}`)
  }
}
