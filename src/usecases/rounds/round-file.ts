import { createHash } from 'node:crypto'
import { Readable } from 'node:stream'
import { parse } from 'csv-parse'
import { CHANNELS, type Channel } from '@/core/records/channels'
import { db } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { listFor } from '@/usecases/lists/open-list'
import { writeCsv } from '@/usecases/directory/write-csv'
import { roundFor } from './rounds'
import { insertTaken, leftOutOf } from '@/db/rounds/stopped'
import { now } from '@/runtime/clock'
import { fileRow } from '@/db/rounds/frozen-round'

export interface RoundFile {
  name: string
  bytes: Buffer
  sha256: string
  /** How many rows of the released file are left out. */
  leftOut: number
}

/**
 * One released file as it may be used now: without whoever must not be contacted by its channel any more. With `asReleased` it is the
 * file that was released, byte for byte. Who takes it is kept, and without whom, so that a suppression can name them.
 */
export async function roundFile(actor: Actor, id: number, channel: string, asReleased = false): Promise<RoundFile> {
  const { round } = await roundFor(actor, id)
  await listFor(actor, round.list_id, 'use')
  const own = CHANNELS.find((known) => known === channel)
  const file = own && (await fileRow(db(), id, own))
  if (!file) throw new Refused('This round has no such file.', 'not found')
  if (file.withdrawn_at)
    throw new Refused('Somebody in this file was erased on request, so it was withdrawn. Its rows and its checksum stay with the round.')
  const at = now()
  const without = asReleased ? [] : await leftOut(id, own, at)
  const handed = await withoutPeople(file, without)
  await insertTaken(db(), { round: id, channel: own, actor: actor.id, at, without })
  return { ...handed, leftOut: without.length }
}

const leftOut = async (id: number, channel: Channel, at: Date): Promise<number[]> =>
  (await leftOutOf(db(), id, at)).filter((own) => own.channel === channel).map(({ person }) => person)

/** The rows of a released file but for those of some people, each as it stands there; the same file where there are none. */
export async function withoutPeople(file: Omit<RoundFile, 'leftOut'>, people: readonly number[]): Promise<Omit<RoundFile, 'leftOut'>> {
  if (people.length === 0) return file
  const out = new Set(people.map(String))
  const kept: string[][] = []
  for await (const row of Readable.from([file.bytes]).pipe(parse())) if (!out.has(row[0])) kept.push(row)
  const [heading, ...rows] = kept
  const bytes = await writeCsv(heading, rows)
  return {
    name: file.name.replace(/\.csv$/, `-without-${people.length}.csv`),
    bytes,
    sha256: createHash('sha256').update(bytes).digest('hex'),
  }
}
