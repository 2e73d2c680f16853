import { type Fillable, titlesOf } from '@/core/sources/enquiry'
import { db } from '@/db/connection'
import { besideTransaction } from '@/runtime/inside-transaction'
import { rowsOutside } from '@/formats/outside'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { batchFor } from '@/usecases/intake/batch-for'
import { enquiryFor } from './enquiries'
import { receiveFile, refusing } from '@/usecases/intake/receive-file'
import { withFileOf } from '@/db/intake/batch-file'
import { type Enquiry, itemRows, updateBatch } from '@/db/sources/enquiry-rows'
import { updateOptions } from '@/db/intake/batch-rows'

/**
 * Makes a batch of what an enquiry brought, to be looked at and matched like any file. Of people we know only what they
 * lack stands in it, and it fills blanks alone; of a file its own columns stand first. What is about a list belongs to it, and does
 * not carry its name about. Gives the number of the batch.
 */
export async function batchFromEnquiry(actor: Actor, id: number): Promise<number> {
  mustCoordinate(actor, 'Bringing in what a source found')
  return db().transaction(async (trx) => {
    // Pressed twice at once it makes one batch.
    const e = await enquiryFor(actor, id, 'use', trx, true)
    // Its rows are written beside the transaction, which locks this one enquiry and nothing else.
    const batch = await besideTransaction(() => madeBatch(actor, id, e))
    await updateBatch(trx, id, batch)
    return batch
  })
}

/** Makes a batch of what an enquiry brought, and returns its id. Refuses where there is nothing to store or it was done before. */
export async function madeBatch(actor: Actor, id: number, e: Enquiry): Promise<number> {
  if (e.batch_id !== null) throw new Refused('What this enquiry found is a batch already.')
  if (e.kind === 'check') throw new Refused('A check of addresses stores no records. Fill gaps or find records instead.')
  if (e.state === 'running' || e.state === 'asking') throw new Refused('This enquiry is still running. Wait until it ends, or stop it.')
  const items: {
    key: string
    data: { title: string; person?: number; row?: number; known?: string; lacks?: Fillable[] }
    answer: Record<string, string> | null
    state: string
  }[] = await itemRows(db(), id)
  const rows =
    e.asked.kind === 'fill' && 'file' in e.asked.of
      ? await filledRows(actor, e.asked.of.file, new Map(items.map((item) => [item.data.row as number, item])))
      : items
          .filter(({ answer }) => answer !== null)
          .map(({ key, data, answer, state }) =>
            data.person === undefined
              ? { ...answer, 'Source key': `${e.source} ${key}` }
              : { 'Record number': String(data.person), Name: data.title, ...only(answer ?? {}, data.lacks ?? []), Found: state },
          )
  if (items.every(({ answer }) => answer === null)) throw new Refused('This enquiry found nothing that can be imported.')
  const lines = rows.map((row) => JSON.stringify(inOrder(row))).join('\n')
  const batch = await receiveFile(actor, {
    name: `${e.list_id === null ? e.name : `Gaps filled ${id}`}.jsonl`,
    bytes: Buffer.from(lines),
    kind: e.source === 'premises' ? 'premises' : 'people',
  })
  const rules = e.kind === 'fill' ? { name: 'blanks', role: 'blanks', organisation: 'blanks', address: 'blanks' } : {}
  await updateOptions(db(), batch, rules, e.list_id)
  return batch
}

/** Titles as people read them; what a database kept comes back in an order of its own. */
export const TITLES = [
  'Record number',
  'Name',
  'Premises',
  'Kind of premises',
  'Role',
  'Organisation',
  'Organisation type',
  'Sub-kind',
  'Employees',
  'E-mail',
  'Phone',
  'Street',
  'Town',
  'Postcode',
  'Latitude',
  'Longitude',
  'Kind of roof',
  'Roof area',
  'Year built',
  'Owner',
  'Kind of owner',
]

/** Returns a row with its titles in the usual order. */
export function inOrder(row: Record<string, string>): Record<string, string> {
  const place = (title: string) => (TITLES.includes(title) ? TITLES.indexOf(title) : TITLES.length)
  return Object.fromEntries(Object.entries(row).sort(([a], [b]) => place(a) - place(b)))
}

/** Of what was found, that which somebody lacks. */
export function only(answer: Record<string, string>, lacks: Fillable[]): Record<string, string> {
  return Object.fromEntries(titlesOf(lacks).flatMap((title) => (answer[title] ? [[title, answer[title]]] : [])))
}

/** Every row of a file, with what was found for it beside its own cells, which stand as they are; of whom we have, our own record. */
export async function filledRows(
  actor: Actor,
  file: number,
  filled: Map<number, { data: { person?: number; known?: string }; answer: Record<string, string> | null; state: string }>,
): Promise<Record<string, string>[]> {
  const batch = await batchFor(actor, file)
  const rows: Record<string, string>[] = []
  const added = [
    ...new Set(
      [...filled.values()].flatMap(({ answer, data }) => [
        ...Object.keys(answer ?? {}),
        ...(data.person === undefined ? [] : ['Record number', 'Name']),
      ]),
    ),
  ]
  await withFileOf(file, (path) =>
    refusing(async () => {
      for await (const raw of rowsOutside(path, batch.reading, batch.header)) {
        const came = filled.get(rows.length + 1)
        const own = Object.fromEntries(batch.header.map((title, i) => [title || `Column ${i + 1}`, raw[i] ?? '']))
        const found: Record<string, string> =
          came?.data.person === undefined
            ? (came?.answer ?? {})
            : { 'Record number': String(came.data.person), Name: came.data.known ?? '' }
        rows.push({
          ...own,
          ...Object.fromEntries(added.map((title) => [title, own[title]?.trim() ? own[title] : (found[title] ?? '')])),
          Found: came?.state ?? '',
        })
      }
    }),
  )
  return rows
}
