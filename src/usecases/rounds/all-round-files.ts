import { parse } from 'csv-parse/sync'
import { zipSync } from 'fflate'
import { db } from '@/db/connection'
import { numberById } from '@/db/lists/editions'
import { layoutsTaken } from '@/db/rounds/procedure-rows'
import { fileRows } from '@/db/rounds/round-files'
import { policyEdition } from '@/db/screening/policies'
import { nameOf } from '@/db/team/colleagues'
import { type Actor, Refused } from '@/usecases/team/actor'
import { aboutFiles, mayTakeFiles } from './about-round-files'
import { type RoundFile, roundFile } from './round-file'
import type { Channel } from '@/core/records/channels'
import type { FileLayout } from '@/core/rounds/file-layout'
import { roundSlug } from './rounds'

/**
 * All files of a released round in one archive, each as it may be used now, with what their columns are and a manifest: whose list, round,
 * edition and policy, as of when, by whom, and the rows and checksum of each file. Files that were taken in other layouts are in it, too. Taking it is kept like taking each of them. The same
 * question gives the same bytes, as long as nobody in the files is suppressed meanwhile.
 */
export async function allRoundFiles(actor: Actor, id: number): Promise<{ name: string; bytes: Buffer }> {
  const { round, list } = await mayTakeFiles(actor, id)
  const rows = await fileRows(db(), id)
  const there = rows.filter(({ withdrawnAt }) => withdrawnAt === null)
  if (there.length === 0) throw new Refused('Every file of this round was withdrawn, since somebody in them was erased on request.')
  const files = []
  for (const { channel, rows: released } of there) {
    const file = await roundFile(actor, id, channel)
    files.push({ ...file, channel: channel as string, rows: released - file.leftOut, content: file.bytes, bytes: file.bytes.length })
  }
  const laidOut: (RoundFile & { base: string; channel: Channel; layout: FileLayout; rows: number; content: Buffer })[] = []
  for (const { channel, layout } of await layoutsTaken(db(), id)) {
    const released = there.find((own) => own.channel === channel)
    if (!released) continue
    const file = await roundFile(actor, id, channel, { layout })
    const before = laidOut.filter((own) => own.base === file.name).length
    const name = `other-layouts/${before === 0 ? '' : `${before + 1}-`}${file.name}`
    laidOut.push({ ...file, base: file.name, name, channel, layout, rows: released.rows - file.leftOut, content: file.bytes })
  }
  // Of the very files that are in it: somebody may be suppressed while it is put together.
  const about = await aboutFiles(
    actor,
    id,
    files.map(({ channel, name, rows: own, bytes, sha256, content }) => ({
      channel,
      name,
      rows: own,
      bytes,
      sha256,
      heading: parse(content.subarray(0, 2000), { to: 1 })[0] ?? [],
    })),
  )
  const policy = round.policy_edition_id === null ? null : await policyEdition(db(), round.policy_edition_id)
  const manifest = {
    list: list.name,
    round: round.number,
    ...(round.supplement > 0 ? { supplement: round.supplement } : {}),
    edition: (await numberById(db(), round.edition_id)).number,
    policy: policy && { name: policy.name, edition: policy.number },
    asOf: round.as_of?.toISOString() ?? null,
    releasedAt: round.released_at.toISOString(),
    releasedBy: (await nameOf(db(), round.released_by ?? round.started_by))?.name ?? '',
    files: files.map(({ channel, name, rows: own, leftOut, bytes, sha256 }) => ({ name, channel, rows: own, leftOut, bytes, sha256 })),
    ...(laidOut.length === 0
      ? {}
      : {
          otherLayouts: laidOut.map(({ name, channel, layout, rows: own, leftOut, bytes, sha256 }) => ({
            name,
            channel,
            format: layout.format,
            columns: layout.columns.map(({ heading }) => heading),
            rows: own,
            leftOut,
            bytes: bytes.length,
            sha256,
          })),
        }),
    withdrawn: rows.filter(({ withdrawnAt }) => withdrawnAt !== null).map(({ channel }) => channel),
  }
  const all = [
    ...[...files, ...laidOut].map(({ name, content }) => ({ name, bytes: content })),
    about,
    { name: 'manifest.json', bytes: Buffer.from(`${JSON.stringify(manifest, null, 2)}\n`) },
  ]
  const archive = zipSync(Object.fromEntries(all.map(({ name, bytes }) => [name, new Uint8Array(bytes)])), { mtime: round.released_at })
  return { name: `${roundSlug(round)}.zip`, bytes: Buffer.from(archive) }
}
