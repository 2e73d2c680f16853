import { parse } from 'csv-parse/sync'
import { aboutFile } from '@/core/text/about-csv'
import { db } from '@/db/connection'
import { numberById } from '@/db/lists/editions'
import { fileHeads, fileRow } from '@/db/rounds/round-files'
import type { Channel } from '@/core/records/channels'
import type { RoundRow } from '@/db/rounds/round-rows'
import { nameOf } from '@/db/team/colleagues'
import { listFor } from '@/usecases/lists/open-list'
import { type Actor, Refused } from '@/usecases/team/actor'
import { now } from '@/runtime/clock'
import { leftOut, withoutRows } from './round-file'
import { anyRoundFor, calledOf, roundSlug } from './rounds'

/** A file of a round as it is handed over. */
export interface HandedFile {
  channel: string
  name: string
  rows: number
  bytes: number
  sha256: string
  heading: string[]
}

/** What the files of a released round are, as a file beside them. Whoever may download them may download this. */
export async function aboutRoundFiles(actor: Actor, id: number): Promise<{ name: string; bytes: Buffer }> {
  const { round } = await mayTakeFiles(actor, id)
  const heads = await fileHeads(db(), id)
  return aboutFiles(
    actor,
    id,
    await Promise.all(
      heads.map(async ({ head, ...file }) => ({
        ...file,
        ...(await asDownloaded(round, file.channel, file.rows)),
        heading: parse(head, { to: 1 })[0] ?? [],
      })),
    ),
  )
}

/** The same of files that are handed over together with it. */
export async function aboutFiles(actor: Actor, id: number, files: readonly HandedFile[]): Promise<{ name: string; bytes: Buffer }> {
  const { round, list } = await mayTakeFiles(actor, id)
  const edition = await numberById(db(), round.edition_id)
  const by = await nameOf(db(), round.released_by ?? round.started_by)
  return aboutFile(`${roundSlug(round)}-csv-metadata.json`, {
    title: `Round ${calledOf(round)} of ${list.name}`,
    description: round.letters
      ? `The letters of round ${calledOf(round)} of the list “${list.name}”, edition ${edition.number}: to whom and where each goes.`
      : `Who was released for contact in round ${calledOf(round)} of the list “${list.name}”, edition ${edition.number}, a file a channel.`,
    issued: round.released_at,
    by: by?.name ?? '',
    files: files.map(({ channel, ...file }) => ({ ...file, title: channel })),
  })
}

/** A released round whose files somebody may take. */
export async function mayTakeFiles(actor: Actor, id: number) {
  const { round, list } = await anyRoundFor(actor, id)
  await listFor(actor, round.list_id, 'use')
  if (!round.released_at) throw new Refused('This round is not released, so it has no files yet.', 'not found')
  return { round: { ...round, released_at: round.released_at }, list }
}

/** What differs of a file that is downloaded now from the one that was released. */
async function asDownloaded(round: RoundRow, channel: Channel, rows: number) {
  const out = await leftOut(round, channel, now())
  const file = out.length === 0 ? undefined : await fileRow(db(), round.id, channel)
  if (!file || file.withdrawn_at) return {}
  const { name, bytes, sha256 } = await withoutRows(file, out)
  return { name, rows: rows - out.length, bytes: bytes.length, sha256 }
}
