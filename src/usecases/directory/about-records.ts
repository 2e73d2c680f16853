import { aboutFile } from '@/core/text/about-csv'
import { now } from '@/runtime/clock'
import type { AccountAsked } from '@/usecases/lists/list-account'
import type { Actor } from '@/usecases/team/actor'
import { recordsCsv } from './export-records'

/** What the CSV file of a tab or figure of a list is, as a file beside it: its list, columns, rows and who saved it when. */
export async function aboutRecords(actor: Actor, ask: AccountAsked & { list: number }): Promise<{ name: string; bytes: Buffer }> {
  const { name, list, what, heading, rows } = await recordsCsv(actor, ask)
  return aboutFile(name.replace(/\.csv$/, '-csv-metadata.json'), {
    title: `${list}: ${what}`,
    description: `The records of the list “${list}” (${what}), each with the reason it is there. A working file: nobody was released for contact with it.`,
    issued: now(),
    by: actor.name,
    files: [{ name, title: what, rows, heading }],
  })
}
