import type { Channel, Reason } from '@/core/columns/person-record'
import { startOfDate } from '@/core/calendar/local-day'
import { type SuppressionRow, suppressionRow } from '@/core/clean/rows'
import type { Batch } from '@/core/outputs/views'
import type { Knex } from '@/db/connection'
import type { RowOutcome } from '@/db/intake-store'
import { addressKey } from '@/db/key'
import { settings } from '@/runtime/settings'
import { peopleMeant, peopleNamed } from './run-contacts'
import { type NewSuppression, writeSuppressions } from './suppress-people'

/**
 * Brings in some rows of suppressions. A row with an e-mail or phone stands whether or not anybody has it; one with an
 * outside id needs its person. What is suppressed already, for that reason and those channels, is *same*. One transaction.
 */
export async function runSuppressions(trx: Knex, batch: Batch, rows: { row_no: number; raw: string[] }[], at: Date): Promise<RowOutcome[]> {
  const { ARCH_REGION } = settings()
  const cleaned = rows.map(({ row_no, raw }) => ({ row_no, row: suppressionRow(raw, batch.mapping, ARCH_REGION) }))
  const people = await peopleNamed(trx, cleaned.flatMap(({ row }) => ('refused' in row ? [] : [{ ...row, email: null, phone: null, name: null }])))
  const standing = await standingKeys(trx, cleaned.flatMap(({ row }) => ('refused' in row ? [] : keysOf(row))))
  const fresh: NewSuppression[] = []
  const outcomes = cleaned.map(({ row_no, row }): RowOutcome => {
    if ('refused' in row) return { row_no, outcome: 'refused', reason: row.refused }
    const meant = row.outsideId && !row.email && !row.phone ? peopleMeant(row, people) : []
    if (row.outsideId && !row.email && !row.phone && meant.length !== 1) return { row_no, outcome: 'refused', reason: `nobody in the directory has the outside id ${row.outsideId}` }
    const made = suppressionsOf(row, batch, meant[0]?.id, at).filter((s) => {
      const key = standingKey(s)
      if (key === null || !standing.has(key)) {
        if (key) standing.add(key)
        return true
      }
      return false
    })
    if (made.length === 0) return { row_no, outcome: 'same', reason: 'it is suppressed already' }
    fresh.push(...made)
    return { row_no, outcome: 'new', person_id: meant[0]?.id ?? null }
  })
  await writeSuppressions(trx, fresh, at)
  return outcomes
}

/** Once all rows of a copy of a register are in, the copy's date counts. */
export async function finishSuppressions(trx: Knex, batch: Batch, at: Date): Promise<void> {
  const { register } = batch.options
  if (register) await trx('register_file').insert({ name: register.name, version: register.version, good_for: 31, batch_id: batch.id, recorded_at: at })
}

function suppressionsOf(row: SuppressionRow, batch: Batch, person: number | undefined, at: Date): NewSuppression[] {
  const { register } = batch.options
  const zone = settings().ARCH_ZONE
  const reason: Reason = row.reason ?? (register ? 'register' : 'opt-out')
  const common = {
    reason,
    since: new Date(row.since ? startOfDate(row.since, zone) : register ? startOfDate(register.version, zone) : at),
    until: row.until ? new Date(startOfDate(row.until, zone)) : null,
    word: row.word ?? register?.name ?? batch.file_name,
    actor: batch.actor_id,
    batch: batch.id,
  }
  const channels = (own: Channel[]): Channel[] => (reason === 'register' ? ['phone'] : row.channels.length > 0 ? row.channels : own)
  const made: NewSuppression[] = []
  if (person !== undefined) made.push({ ...common, of: { person }, channels: channels(['email', 'phone', 'post', 'direct']) })
  if (row.email && reason !== 'register') made.push({ ...common, of: { email: row.email }, channels: ['email'] })
  if (row.phone) made.push({ ...common, of: { phone: row.phone }, channels: ['phone'] })
  return made
}

const keysOf = (row: SuppressionRow) => [...(row.email ? [addressKey('email', row.email)] : []), ...(row.phone ? [addressKey('phone', row.phone)] : [])]

function standingKey(s: NewSuppression): string | null {
  if ('person' in s.of) return null
  const key = 'email' in s.of ? addressKey('email', s.of.email) : addressKey('phone', s.of.phone)
  return `${s.reason}|${key.toString('hex')}`
}

async function standingKeys(trx: Knex, keys: Buffer[]): Promise<Set<string>> {
  const { rows } = await trx.raw(
    `select distinct s.reason, k.key from suppression_standing s join suppression_key k on k.suppression_id = s.id
     where k.key = any(?::bytea[]) and s.scope <> 'person' and s.until is null`,
    [keys],
  )
  return new Set(rows.map((row: { reason: string; key: Buffer }) => `${row.reason}|${row.key.toString('hex')}`))
}
