import { parse } from 'csv-parse/sync'
import { aboutFile } from '@/core/text/about-csv'
import { db } from '@/db/connection'
import { numberById } from '@/db/lists/editions'
import { fileHeads, fileRow } from '@/db/rounds/frozen-round'
import { leftOutOf } from '@/db/rounds/stopped'
import { nameOf } from '@/db/team/colleagues'
import { listFor } from '@/usecases/lists/open-list'
import { type Actor, Refused } from '@/usecases/team/actor'
import { now } from '@/runtime/clock'
import { withoutPeople } from './round-file'
import { roundFor } from './rounds'

/** What the files of a released round are, as a file beside them. Whoever may download them may download this. */
export async function aboutRoundFiles(actor: Actor, id: number): Promise<{ name: string; bytes: Buffer }> {
  const { round, list } = await roundFor(actor, id)
  await listFor(actor, round.list_id, 'use')
  if (!round.released_at) throw new Refused('This round is not released, so it has no files yet.', 'not found')
  const heads = await fileHeads(db(), id)
  const left = await leftOutOf(db(), id, now())
  const edition = await numberById(db(), round.edition_id)
  const by = await nameOf(db(), round.released_by ?? round.started_by)
  return aboutFile(`round-${round.number}-csv-metadata.json`, {
    title: `Round ${round.number} of ${list.name}`,
    description: `Who was released for contact in round ${round.number} of the list “${list.name}”, edition ${edition.number}, a file a channel.`,
    issued: round.released_at,
    by: by?.name ?? '',
    files: await Promise.all(
      heads.map(async ({ head, channel, ...file }) => ({
        ...file,
        ...(await asDownloaded(id, channel, file.rows, left)),
        title: channel,
        heading: parse(head, { to: 1 })[0] ?? [],
      })),
    ),
  })
}

/** What differs of a file that is downloaded now from the one that was released. */
async function asDownloaded(id: number, channel: string, rows: number, left: { channel: string; person: number }[]) {
  const people = left.filter((own) => own.channel === channel).map(({ person }) => person)
  const file = people.length === 0 ? undefined : await fileRow(db(), id, channel)
  if (!file || file.withdrawn_at) return {}
  const { name, bytes, sha256 } = await withoutPeople(file, people)
  return { name, rows: rows - people.length, bytes: bytes.length, sha256 }
}
