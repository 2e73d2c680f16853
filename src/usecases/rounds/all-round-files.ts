import { zipSync } from 'fflate'
import { db } from '@/db/connection'
import { numberById } from '@/db/lists/editions'
import { fileRows } from '@/db/rounds/frozen-round'
import { policyEdition } from '@/db/screening/policies'
import { nameOf } from '@/db/team/colleagues'
import { listFor } from '@/usecases/lists/open-list'
import { type Actor, Refused } from '@/usecases/team/actor'
import { aboutRoundFiles } from './about-round-files'
import { roundFile } from './round-file'
import { roundFor } from './rounds'

/**
 * All files of a released round in one archive, each as it may be used now, with what their columns are and a manifest: whose list, round,
 * edition and policy, as of when, by whom, and the rows and checksum of each file. Taking it is kept like taking each of them. The same
 * question gives the same bytes, as long as nobody in the files is suppressed meanwhile.
 */
export async function allRoundFiles(actor: Actor, id: number): Promise<{ name: string; bytes: Buffer }> {
  const { round, list } = await roundFor(actor, id)
  await listFor(actor, list.id, 'use')
  if (!round.released_at) throw new Refused('This round is not released, so it has no files yet.', 'not found')
  const rows = await fileRows(db(), id)
  const there = rows.filter(({ withdrawnAt }) => withdrawnAt === null)
  if (there.length === 0) throw new Refused('Every file of this round was withdrawn, since somebody in them was erased on request.')
  const files = []
  for (const { channel } of there) files.push({ channel: channel as string, ...(await roundFile(actor, id, channel)) })
  const about = await aboutRoundFiles(actor, id)
  const policy = round.policy_edition_id === null ? null : await policyEdition(db(), round.policy_edition_id)
  const manifest = {
    list: list.name,
    round: round.number,
    edition: (await numberById(db(), round.edition_id)).number,
    policy: policy && { name: policy.name, edition: policy.number },
    asOf: round.as_of?.toISOString() ?? null,
    releasedAt: round.released_at.toISOString(),
    releasedBy: (await nameOf(db(), round.released_by ?? round.started_by))?.name ?? '',
    files: files.map(({ channel, name, bytes, sha256 }) => ({
      name,
      channel,
      released: there.find((own) => own.channel === channel)?.rows,
      bytes: bytes.length,
      sha256,
    })),
    withdrawn: rows.filter(({ withdrawnAt }) => withdrawnAt !== null).map(({ channel }) => channel),
  }
  const all = [...files, about, { name: 'manifest.json', bytes: Buffer.from(`${JSON.stringify(manifest, null, 2)}\n`) }]
  const archive = zipSync(Object.fromEntries(all.map(({ name, bytes }) => [name, new Uint8Array(bytes)])), { mtime: round.released_at })
  return { name: `round-${round.number}.zip`, bytes: Buffer.from(archive) }
}
