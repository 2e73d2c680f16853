import type { Knex } from '@/db/connection'
import { writeEntries } from '@/db/ledger'
import { stopToCome } from '@/db/rounds/stopped'

/** Takes whom some suppressions touch out of what released rounds are still to do, at once, and says so in their ledgers. */
export async function stopContacts(
  trx: Knex,
  suppressions: readonly number[],
  by: (suppression: number) => string,
  at: Date,
): Promise<void> {
  if (suppressions.length === 0) return
  const stopped = await stopToCome(trx, suppressions, at)
  await writeEntries(
    trx,
    stopped.map(({ round, list, person, channel, suppression }) => ({
      person,
      kind: 'not worked' as const,
      at,
      actor: by(suppression),
      channel,
      round,
      list,
      suppression,
      result: 'suppressed',
    })),
    at,
  )
}
