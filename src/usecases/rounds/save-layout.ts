import { string } from 'yup'
import type { Channel } from '@/core/records/channels'
import { EXTRA_COLUMNS, fileHeading, layoutTrouble } from '@/core/rounds/file-layout'
import { trimmed } from '@/core/clean/name'
import { db } from '@/db/connection'
import { saveLayoutRow } from '@/db/rounds/layout-rows'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { layoutMeant } from './layout-meant'

const name = string().transform(trimmed).max(60, 'The name holds at most 60 characters.').required('Give the layout a name.')

/** Saves how a file is laid out under a name, for the team. One of the same name for that channel is written over. */
export async function saveLayout(actor: Actor, channel: Channel, called: string, raw: unknown): Promise<number> {
  mustCoordinate(actor, 'Saving a layout')
  const own = layoutMeant(raw)
  const trouble = layoutTrouble(own, fileHeading(channel, EXTRA_COLUMNS))
  if (trouble) throw new Refused(`${trouble} The layout was not saved.`)
  return saveLayoutRow(db(), channel, name.validateSync(called), own, actor.id)
}
