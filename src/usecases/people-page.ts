import { SCREENED, type Way } from '@/core/columns/person-record'
import type { PersonRecord } from '@/core/columns/person-record'
import type { PersonView, Reach } from '@/core/outputs/record-views'
import type { Rule } from '@/core/screening/rules'
import { screenRecord } from '@/core/screening/screen-record'
import { db } from '@/db/connection'
import { personRecords } from '@/db/person-records'
import { momentNow } from './screening-now'

const DAY = 86_400_000
const STANDING: Rule[] = [{ kind: 'no-way-to-reach' }, { kind: 'asked-to-stop' }, { kind: 'register', version: null, goodFor: 31 }, { kind: 'address-failed', off: false }]

/** Rows for a page of people, in the order of the ids, with the records they were made from. */
export async function peoplePage(ids: number[], reachOf: (record: PersonRecord) => Reach = standingReach): Promise<{ view: PersonView; record: PersonRecord }[]> {
  if (ids.length === 0) return []
  const rows = await db()('person as p')
    .leftJoin('organisation as o', 'o.id', 'p.organisation_id')
    .leftJoin('facts as f', 'f.person_id', 'p.id')
    .leftJoin('user as u', 'u.id', 'f.last_by')
    .whereIn('p.id', ids)
    .select('p.id', 'p.name', 'p.role', 'o.name as organisation', 'o.id as organisationId', 'f.last_at', 'f.last_channel', 'f.last_result', 'u.name as last_by')
  const named = new Map(rows.map((row) => [row.id, row]))
  const records = new Map((await personRecords(db(), ids)).map(({ record }) => [record.id, record]))
  const today = momentNow().asOf
  return ids.flatMap((id) => {
    const row = named.get(id)
    const record = records.get(id)
    if (!row || !record) return []
    const strip = record.contacts.filter((c) => today - c.at < 365 * DAY && c.at <= today).map((c): [number, Way] => [Math.floor((today - c.at) / DAY), c.channel])
    const last = row.last_at ? { at: row.last_at.toISOString(), channel: row.last_channel as Way, result: row.last_result, by: row.last_by ?? '' } : null
    return [
      {
        record,
        view: { id, name: row.name, role: row.role, organisation: row.organisation, organisationId: row.organisationId, place: record.town, reach: reachOf(record), strip, last },
      },
    ]
  })
}

/** How somebody can be reached as things stand: closed where a suppression closes it, none where there is nothing usable. */
export function standingReach(record: PersonRecord): Reach {
  return reachBy(record, STANDING, momentNow())
}

export function reachBy(record: PersonRecord, rules: Rule[], moment: ReturnType<typeof momentNow>): Reach {
  const verdict = screenRecord(record, rules, moment)
  return Object.fromEntries(
    SCREENED.map((c) => {
      const channel = verdict.channels[c]
      return [c, channel.open ? 'open' : channel.rule === 0 ? 'none' : 'closed']
    }),
  ) as Reach
}

