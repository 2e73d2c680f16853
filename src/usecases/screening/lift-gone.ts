import { db } from '@/db/connection'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { countText } from '@/core/text/written'
import { fileInUse, goneFrom, holdLifts, registerVersion, standingBy } from '@/db/screening/liftings'
import { numberSetting } from '@/db/team/settings'
import { liftMany } from './lift-suppressions'

/**
 * Lifts what stands by an earlier version of a register and is not in the one in use any more, as one act that can be taken back.
 * `expected` is how many the person was shown. More than the share that is set needs a written reason. Gives how many.
 */
export async function liftGone(
  actor: Actor,
  { register, expected, why = '' }: { register: string; expected: number; why?: string },
): Promise<number> {
  mustCoordinate(actor, 'Lifting a suppression')
  return db().transaction(async (trx) => {
    await holdLifts(trx)
    const ids = await goneFrom(trx, register)
    if (ids.length === 0) throw new Refused('Nothing is left to lift: everything that stands is on the version in use.')
    if (ids.length !== expected)
      throw new Refused(
        `${countText(ids.length)} are not on the register any more, and you were shown ${countText(expected)}. Nothing was lifted; look again.`,
      )
    const standing = await standingBy(trx, register)
    const share = await numberSetting('lift-share', trx)
    const reason = why.trim()
    if (ids.length * 100 > standing * share && reason === '')
      throw new Refused(
        `These are ${countText(ids.length)} of the ${countText(standing)} that stand by ${register}, more than ${share} %. A file that is cut short looks just like that. Nothing was lifted. Write why it is right, or bring in the whole file.`,
      )
    const { through, refused } = await fileInUse(trx, register)
    if (!through)
      throw new Refused(`The file of ${register} is not all imported yet. Nothing was lifted. Wait until it is in, or start it again.`)
    if (refused > 0 && reason === '')
      throw new Refused(
        `${countText(refused)} rows of the file could not be read, so some of these numbers may still be on ${register}. Nothing was lifted. Import the file again with those rows corrected, or write why it is right.`,
      )
    const { version } = await registerVersion(trx, register)
    await liftMany(trx, actor, ids, {
      word: `not on ${register} of ${version} any more${reason ? `: ${reason}` : ''}`,
      register,
      version,
      standing,
    })
    return ids.length
  })
}
