import { fieldWordsOf } from '@/core/text/field-words'
import { settings } from '@/runtime/settings'
import { customKey } from '@/core/clean/custom'
import { fold } from '@/core/clean/fold'
import { ownerKeys, ownerPostal } from '@/core/clean/owner'
import { standardFieldsOf } from '@/core/clean/standard-fields'
import { comparablePostal } from '@/core/clean/postal'
import { NOWHERE, type PremisesRow, premisesRow } from '@/core/clean/premises-row'
import type { Match } from '@/core/match/same'
import { matchPremises, type PremisesKeys } from '@/core/match/same-premises'
import { cellsToClean } from '@/core/match/file-locale'
import type { Batch } from '@/core/views/intake-views'
import type { Knex } from '@/db/connection'
import { updateRows } from '@/db/insert-rows'
import { nextIds, type RowOutcome } from '@/db/intake/intake-store'
import { type NewEntry, writeEntries } from '@/db/ledger'
import { insertPremises, type Known, near, type PremisesColumns, TYPES } from '@/db/intake/premises-rows'

/** What changes of premises are called in the ledger. Where they lie is one thing. */
export const PREMISES_FIELDS: Record<string, Exclude<keyof PremisesColumns, 'details'>> = {
  'outside id': 'outside_id',
  name: 'name',
  kind: 'kind',
  street: 'street',
  town: 'town',
  county: 'county',
  postcode: 'postcode',
  'roof area': 'roof_area',
  'year built': 'year_built',
  owner: 'owner',
  'kind of owner': 'owner_kind',
}

const FIELDS_BY_NUMBER = standardFieldsOf('premises')

/** Columns that others follow from. */
export function derived(p: PremisesColumns) {
  const owner = ownerKeys({ owner: p.owner, ownerKind: p.owner_kind, postal: ownerPostal(p.details) })
  return {
    name_key: fold(p.name),
    address_key: comparablePostal({ street: p.street, town: p.town, postcode: p.postcode }),
    owner_name_key: owner.name,
    owner_organisation_key: owner.organisation,
    owner_address_key: owner.address,
  }
}

/** Returns a position as text; null where either number is missing. */
export const positionText = (p: Pick<PremisesColumns, 'lat' | 'lon'>): string | null =>
  p.lat === null || p.lon === null ? null : `${p.lat}, ${p.lon}`

/** Brings in some rows of premises: matches each, creates or updates, and writes the ledger. Later rows see what earlier ones made. One transaction. */
export async function runPremises(
  trx: Knex,
  batch: Batch,
  rows: { row_no: number; raw: string[] }[],
  at: Date,
  decided?: number | 'new',
): Promise<RowOutcome[]> {
  const cleaned = rows.map(({ row_no, raw }) => ({
    row_no,
    row: premisesRow(cellsToClean(batch, raw, FIELDS_BY_NUMBER), batch.mapping, FIELDS_BY_NUMBER),
  }))
  const good = cleaned.flatMap(({ row }) => ('refused' in row ? [] : [row]))
  const known = await near(trx, good, typeof decided === 'number' ? decided : null)
  const ids = await nextIds(trx, 'premises', good.length)
  const made = new Map<number, Known>()
  const changed = new Map<number, Known>()
  const entries: NewEntry[] = []
  const words = fieldWordsOf([], settings().ARCH_REGION)
  const common = { at, actor: batch.actor_id, batch: batch.id }
  const outcomes = cleaned.map(({ row_no, row }): RowOutcome => {
    if ('refused' in row) return { row_no, outcome: 'refused', reason: row.refused }
    const doubts = row.doubts.join(', ') || null
    const found: Match =
      decided === 'new'
        ? { is: 'new' }
        : decided !== undefined
          ? { is: 'same', id: decided, by: 'decision' }
          : matchPremises(
              keysOf(row),
              candidates(known, row).map((p) => ({
                id: p.id,
                outsideId: p.outside_id,
                name: p.named ? p.name : null,
                address: p.address_key,
                position: p.lat !== null && p.lon !== null ? { lat: p.lat, lon: p.lon } : null,
              })),
            )
    if (found.is === 'in doubt') return { row_no, outcome: 'in doubt', reason: found.why, candidates: found.ids }
    if (found.is === 'new' && !row.position && !comparablePostal(row.postal))
      return { row_no, outcome: 'refused', reason: [NOWHERE, doubts].filter(Boolean).join('; ') }
    if (found.is === 'new') {
      const id = ids.shift() as number
      const fresh = { id, ...columnsOf(row), address_key: comparablePostal(row.postal) }
      made.set(id, fresh)
      known.push(fresh)
      entries.push({ ...common, premises: id, kind: 'created' })
      return { row_no, outcome: 'new', reason: doubts, premises_id: id }
    }
    const premises = known.find((p) => p.id === found.id)
    if (!premises) return { row_no, outcome: 'in doubt', reason: 'the premises you chose are no longer in the directory', candidates: [] }
    const changes = changesOf(premises, row)
    for (const { field, before, after } of changes) entries.push({ ...common, premises: premises.id, kind: 'change', field, before, after })
    if (changes.length > 0 && !made.has(premises.id)) changed.set(premises.id, premises)
    return {
      row_no,
      outcome: changes.length > 0 ? 'updated' : 'same',
      reason: [changes.map((c) => words.name(c.field)).join(', '), `known by ${found.by}`, doubts].filter(Boolean).join(' · '),
      premises_id: premises.id,
      changes: { name: premises.name, fields: changes.map((c) => words.told(c)) },
    }
  })
  const written = (p: Known) => ({ ...p, ...derived(p) })
  await insertPremises(
    trx,
    [...made.values()].map((p) => ({ ...written(p), batch_id: batch.id, created_at: at })),
  )
  await updateRows(trx, 'premises', TYPES, [...changed.values()].map(written))
  await writeEntries(trx, entries, at)
  return outcomes
}

const keysOf = (row: PremisesRow): PremisesKeys => ({
  outsideId: row.outsideId,
  name: row.named ? row.name : null,
  address: comparablePostal(row.postal),
  position: row.position,
})

function candidates(known: Known[], row: PremisesRow): Known[] {
  const address = comparablePostal(row.postal)
  return known.filter(
    (p) =>
      (row.outsideId !== null && p.outside_id === row.outsideId) ||
      (address !== null && p.address_key === address) ||
      (row.named && p.named && fold(p.name) === fold(row.name)),
  )
}

function columnsOf(row: PremisesRow): PremisesColumns {
  return {
    outside_id: row.outsideId,
    name: row.name,
    named: row.named,
    kind: row.kind,
    ...row.postal,
    county: row.county,
    lat: row.position?.lat ?? null,
    lon: row.position?.lon ?? null,
    roof_area: row.roofArea,
    year_built: row.yearBuilt,
    owner: row.owner,
    owner_kind: row.ownerKind,
    details: row.details,
  }
}

/** Makes premises what a row says of them, and gives what that changed. Empty cells change nothing; a name of the street alone gives way to one of its own. */
function changesOf(premises: Known, row: PremisesRow): { field: string; before: string | null; after: string | null }[] {
  const changes: { field: string; before: string | null; after: string | null }[] = []
  const said = columnsOf(row)
  for (const [field, column] of Object.entries(PREMISES_FIELDS)) {
    const [before, after] = [premises[column], said[column]]
    if (after === null || after === before || (column === 'name' && !row.named)) continue
    changes.push({ field, before: before === null ? null : String(before), after: String(after) })
    Object.assign(premises, { [column]: after, ...(column === 'name' ? { named: true } : {}) })
  }
  for (const [id, after] of Object.entries(row.details)) {
    const before = premises.details[id] ?? null
    if (after === before) continue
    changes.push({ field: customKey(Number(id)), before, after })
    premises.details = { ...premises.details, [id]: after }
  }
  if (row.position && positionText(row.position) !== positionText(premises)) {
    changes.push({ field: 'position', before: positionText(premises), after: positionText(row.position) })
    Object.assign(premises, row.position)
  }
  premises.address_key = derived(premises).address_key
  return changes
}
