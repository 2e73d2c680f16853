import { createHash } from 'node:crypto'
import { Readable } from 'node:stream'
import { parse } from 'csv-parse'
import { parse as parseCsv } from 'csv-parse/sync'
import { CHANNELS, type Channel } from '@/core/records/channels'
import { slugOf } from '@/core/text/slug'
import { db } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { listFor } from '@/usecases/lists/open-list'
import { writeCsv } from '@/formats/write-csv'
import { layOutFile } from './lay-out-file'
import { layoutMeant } from './layout-meant'
import { anyRoundFor, calledOf } from './rounds'
import { lettersLeftOut } from '@/db/rounds/premises-round-rows'
import type { RoundRow } from '@/db/rounds/round-rows'
import { insertTaken, leftOutOf } from '@/db/rounds/stopped'
import { now } from '@/runtime/clock'
import { fileRow } from '@/db/rounds/round-files'
import { peopleOfShare } from '@/db/rounds/share-rows'
import { nameOf } from '@/db/team/colleagues'

export interface RoundFile {
  name: string
  bytes: Buffer
  sha256: string
  /** How many rows of the released file are left out. */
  leftOut: number
}

/**
 * One released file as it may be used now: without whoever must not be contacted by its channel any more. With `asReleased` it is the
 * file that was released, byte for byte. `layout`: with other columns or in another format. `colleague`: only whom one has, where the
 * contacts are shared out. Who takes it is kept, how, and without whom, so that a suppression can name them.
 */
export async function roundFile(
  actor: Actor,
  id: number,
  channel: string,
  { asReleased = false, layout = null, colleague = null }: { asReleased?: boolean; layout?: unknown; colleague?: string | null } = {},
): Promise<RoundFile> {
  const { round, list } = await anyRoundFor(actor, id)
  if (round.letters && (layout !== null || colleague !== null))
    throw new Refused('The file of a round of premises comes as it is. Nothing was downloaded.')
  const laid = layout === null ? null : layoutMeant(layout)
  await listFor(actor, round.list_id, 'use')
  const own = CHANNELS.find((known) => known === channel)
  const file = own && (await fileRow(db(), id, own))
  if (!file) throw new Refused('This round has no such file.', 'not found')
  if (file.withdrawn_at)
    throw new Refused('Somebody in this file was erased on request, so it was withdrawn. Its rows and its checksum stay with the round.')
  const at = now()
  const without = asReleased ? [] : await leftOut(round, own, at)
  const whole = colleague === null ? await withoutRows(file, without) : await ofColleague(file, { id, channel: own, colleague }, without)
  const about = { called: calledOf(round), released_at: round.released_at as Date, list: list.name }
  const handed = laid ? await layOutFile(whole, laid, about) : whole
  const notIn = 'others' in whole ? [...without, ...(whole.others as number[])] : without
  await insertTaken(db(), { round: id, channel: own, actor: actor.id, at, without: notIn, layout: laid })
  const { name, bytes, sha256 } = handed
  return { name, bytes, sha256, leftOut: without.length }
}

/** What one colleague has of a file whose contacts are shared out, and who in it are others’. */
async function ofColleague(
  file: Omit<RoundFile, 'leftOut'>,
  { id, channel, colleague }: { id: number; channel: Channel; colleague: string },
  without: readonly number[],
): Promise<Omit<RoundFile, 'leftOut'> & { others: number[] }> {
  const theirs = new Set(await peopleOfShare(db(), id, channel, colleague))
  if (theirs.size === 0) throw new Refused('This colleague has no contacts of this round.', 'not found')
  const [, ...rows] = parseCsv(file.bytes) as string[][]
  const others = rows.map((row) => Number(row[0])).filter((person) => !theirs.has(person))
  const who = (await nameOf(db(), colleague))?.name ?? 'colleague'
  const { bytes, sha256 } = await withoutRows(file, [...without, ...others])
  return { name: file.name.replace(/\.csv$/, `-${slugOf(who, 'colleague')}.csv`), bytes, sha256, others }
}

/** Who of a file must not be contacted any more, or which letters of a round of premises must not leave: what its rows begin with. */
export const leftOut = async (round: Pick<RoundRow, 'id' | 'letters'>, channel: Channel, at: Date): Promise<number[]> =>
  round.letters
    ? lettersLeftOut(db(), round.id, at)
    : (await leftOutOf(db(), round.id, at)).filter((own) => own.channel === channel).map(({ person }) => person)

/** The rows of a released file but for those that begin with some numbers, each as it stands there; the same file where there are none. */
export async function withoutRows(file: Omit<RoundFile, 'leftOut'>, people: readonly number[]): Promise<Omit<RoundFile, 'leftOut'>> {
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
