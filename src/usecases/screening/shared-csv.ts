import { writeCsv } from '@/formats/write-csv'
import type { Actor } from '@/usecases/team/actor'
import { sharedWith } from './comparisons'

/** What both organisations must not contact, as CSV. */
export async function sharedCsv(actor: Actor, id: number): Promise<{ name: string; bytes: Buffer }> {
  const { name, shared } = await sharedWith(actor, id)
  const rows = shared.map((own) => [String(own.person), own.name, own.channel, own.value])
  return { name: `shared with ${name}.csv`, bytes: await writeCsv(['Record number', 'Name', 'Channel', 'Address or number'], rows) }
}
