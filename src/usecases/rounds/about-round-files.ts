import { parse } from 'csv-parse/sync'
import { aboutFile } from '@/core/text/about-csv'
import { db } from '@/db/connection'
import { numberById } from '@/db/lists/editions'
import { fileHeads } from '@/db/rounds/frozen-round'
import { nameOf } from '@/db/team/colleagues'
import { listFor } from '@/usecases/lists/open-list'
import { type Actor, Refused } from '@/usecases/team/actor'
import { roundFor } from './rounds'

/** What the files of a released round are, as a file beside them. Whoever may download them may download this. */
export async function aboutRoundFiles(actor: Actor, id: number): Promise<{ name: string; bytes: Buffer }> {
  const { round, list } = await roundFor(actor, id)
  await listFor(actor, round.list_id, 'use')
  if (!round.released_at) throw new Refused('This round is not released, so it has no files yet.', 'not found')
  const heads = await fileHeads(db(), id)
  const edition = await numberById(db(), round.edition_id)
  const by = await nameOf(db(), round.released_by ?? round.started_by)
  return aboutFile(`round-${round.number}-csv-metadata.json`, {
    title: `Round ${round.number} of ${list.name}`,
    description: `Who was released for contact in round ${round.number} of the list “${list.name}”, edition ${edition.number}, a file a channel.`,
    issued: round.released_at,
    by: by?.name ?? '',
    files: heads.map(({ head, channel, ...file }) => ({ ...file, title: channel, heading: parse(head, { to: 1 })[0] ?? [] })),
  })
}
