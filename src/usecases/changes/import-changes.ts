import { createHash } from 'node:crypto'
import { fold } from '@/core/clean/fold'
import { guessLocale, inOneLocale } from '@/core/match/file-locale'
import { changeColumns, changeRow, missingColumns } from '@/core/changes/file-row'
import { countText } from '@/core/text/written'
import type { FeedItem } from '@/core/changes/feed'
import type { ImportedChanges } from '@/core/views/change-views'
import { kindRows } from '@/db/changes/kind-rows'
import { db } from '@/db/connection'
import { lookOutside, rowsOutside } from '@/formats/outside'
import { settings } from '@/runtime/settings'
import { withIncoming } from '@/usecases/intake/batch-file'
import { refusing } from '@/usecases/intake/receive-file'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { takeItems } from './run-feed'

const BLOCK = 500
/** So many rows that were not reported are told one by one. */
const MOST_TOLD = 100
const MOST_ROWS = 200_000

/**
 * Imports a file of changes: each row is a report, as an item of a feed is. Rows that are about nobody here, could be about several, or
 * cannot be read are told with why. A file that comes again brings nothing twice. Throws Refused where no row could be read.
 */
export async function importChanges(actor: Actor, file: { name: string; bytes: AsyncIterable<Uint8Array> }): Promise<ImportedChanges> {
  mustCoordinate(actor, 'Importing changes')
  const kinds = new Map(
    (await kindRows(db(), actor.id)).flatMap((kind) => [kind.name, kind.key ?? kind.name].map((word) => [fold(word), kind.id])),
  )
  return withIncoming(file.bytes, async (path) => {
    const shape = await refusing(() => lookOutside(path))
    const columns = changeColumns(shape.header)
    const missing = missingColumns(columns)
    if (missing) throw new Refused(`${missing} Nothing was imported.`)
    const locale = guessLocale(shape.first, shape.reading.delimiter, { decimal: '.', monthFirst: settings().ARCH_REGION === 'US' })
    const mapping = columns.map((column) => (column === 'day' || column === 'seen' ? 'date' : null)) as Parameters<typeof inOneLocale>[1]
    const told: ImportedChanges = { rows: 0, reported: 0, known: 0, nobody: 0, inDoubt: 0, refused: 0, not: [] }
    let block: FeedItem[] = []
    const settle = async () => {
      const outcomes = await takeItems(`file ${file.name}`.slice(0, 100), file.name.slice(0, 120), actor.id, block, kinds)
      outcomes.forEach(({ outcome, why }, i) => {
        told[COUNTED[outcome]]++
        if (outcome !== 'reported' && outcome !== 'known' && told.not.length < MOST_TOLD)
          told.not.push({ row: told.rows - block.length + i + 1, why: why ?? WHY[outcome] })
      })
      block = []
    }
    await refusing(async () => {
      for await (const raw of rowsOutside(path, shape.reading, shape.header)) {
        if (++told.rows > MOST_ROWS)
          throw new Refused(
            `The file has more than ${countText(MOST_ROWS)} rows. The first rows are imported. Import the rest as another file.`,
          )
        block.push(
          changeRow(inOneLocale(raw, mapping, locale), columns, (content) => `row ${createHash('sha256').update(content).digest('hex')}`),
        )
        if (block.length === BLOCK) await settle()
      }
    })
    if (block.length > 0) await settle()
    return told
  })
}

const COUNTED = { reported: 'reported', known: 'known', 'nobody here': 'nobody', 'in doubt': 'inDoubt', refused: 'refused' } as const
const WHY: Record<string, string> = {
  'nobody here': 'it is about nobody in the directory',
  'in doubt': 'it could be about several records',
}
