import { array, number, object, string } from 'yup'
import { trimmed } from '@/core/clean/name'
import { closePostcode } from '@/core/clean/postcode'
import { db } from '@/db/connection'
import { territoryLocked, territoryNamed, writeHolders, writeTerritory } from '@/db/team/territory-rows'
import { colleagueRows } from '@/db/team/colleagues'
import { holdTerritories } from '@/db/locks'
import { now } from '@/runtime/clock'
import { type Actor, mustCoordinate, Refused } from './actor'

const schema = object({
  id: number().integer().nullable().default(null),
  name: string().transform(trimmed).required('Give the territory a name.').max(100, 'A name has at most 100 characters.'),
  postcodes: array(string().transform(trimmed).max(12, 'A postcode has at most 12 characters.').required())
    .min(1, 'Name at least one postcode, or what postcodes begin with.')
    .max(200, 'A territory has at most 200 postcodes. Use what they begin with, such as PW1.')
    .required(),
  holders: array(string().max(60).required()).max(100).required(),
})

/** Saves a territory: what its postcodes begin with, and the colleagues it belongs to. Lists that name it follow it at once. */
export async function saveTerritory(actor: Actor, raw: unknown): Promise<number> {
  mustCoordinate(actor, 'Changing territories')
  const { id, name, postcodes, holders } = schema.validateSync(raw, { abortEarly: false })
  const wrong = postcodes.find((own) => closePostcode(own) === '')
  if (wrong !== undefined) throw new Refused(`“${wrong}” is no postcode, nor the beginning of one. Nothing was saved.`)
  return db().transaction(async (trx) => {
    await holdTerritories(trx)
    if (id !== null) {
      const known = await territoryLocked(trx, id)
      if (!known || known.removed_at) throw new Refused('There is no such territory. Somebody may have removed it.', 'not found')
    }
    if (await territoryNamed(trx, name, id)) throw new Refused(`There is a territory “${name}” already. Nothing was saved.`)
    const there = new Set((await colleagueRows(trx)).map((own) => own.id))
    if (holders.some((own) => !there.has(own)))
      throw new Refused('One of these colleagues has left. Nothing was saved. Load the page again.')
    const written = await writeTerritory(trx, {
      id,
      name,
      postcodes: [...new Map(postcodes.map((own) => [closePostcode(own), own])).values()],
      by: actor.id,
      at: now(),
    })
    await writeHolders(trx, written, [...new Set(holders)])
    return written
  })
}
