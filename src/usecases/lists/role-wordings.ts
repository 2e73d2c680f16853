import type { RoleWording } from '@/core/views/list-views'
import { db } from '@/db/connection'
import type { Actor } from '@/usecases/team/actor'
import { wordingRows } from '@/db/lists/role-wordings'

/** The wordings of roles that the team goes by. */
export async function roleWordings(_actor: Actor): Promise<RoleWording[]> {
  return (await wordingRows(db())).map((w) => ({
    id: w.id,
    name: w.name,
    says: w.says,
    butNot: w.but_not,
  }))
}
