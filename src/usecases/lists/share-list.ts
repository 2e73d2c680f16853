import { type Sharing, validSharing } from '@/core/records/list-roles'
import { db, type Knex } from '@/db/connection'
import { holdNames } from '@/db/locks'
import { type Actor, Refused } from '@/usecases/team/actor'
import { listFor } from './open-list'
import { ownList } from './own-list'
import { checkSharing } from './named-lists'
import { latestEdition, updateTeamRole } from '@/db/lists/list-rows'
import { tellTalk } from '@/db/team/news'
import { deleteMembers, insertMembers, memberRows } from '@/db/lists/list-members'
import { countHere } from '@/db/team/colleagues'

/** Who may do what with a list, for those who see it. */
export async function sharingOf(actor: Actor, id: number, trx: Knex = db()): Promise<Sharing> {
  const list = await listFor(actor, id, 'see', trx)
  const members = await memberRows(trx, id)
  return { team: list.team_role, members }
}

/**
 * Says who may do what with a list: its owner alone decides. Whoever may see a list must be able to see all that its
 * lines name, and lists that name it may not be seen by more people than it; what breaks that is refused whole.
 */
export async function shareList(actor: Actor, id: number, raw: unknown): Promise<void> {
  const sharing = checked(raw)
  await db().transaction(async (trx) => {
    const list = await ownList(actor, id, 'decide who sees it', trx, true)
    await holdNames(trx)
    const members = sharing.members.filter((m) => m.id !== list.owner_id)
    const known = await countHere(
      trx,
      members.map((m) => m.id),
    )
    if (Number(known?.n) !== members.length)
      throw new Refused('Somebody it was to be shared with is no longer on the team. Nothing was changed.')
    await updateTeamRole(trx, id, sharing.team)
    await deleteMembers(trx, id)
    if (members.length > 0)
      await insertMembers(
        trx,
        members.map((m) => ({ list_id: id, user_id: m.id, role: m.role })),
      )
    await checkSharing(actor, id, (await latestEdition(id, trx)).lines, trx)
    await tellTalk(trx, id)
  })
}

function checked(raw: unknown): Sharing {
  try {
    return validSharing(raw)
  } catch (error) {
    throw new Refused(`Who sees the list was not changed: ${(error as Error).message}.`)
  }
}
