import type { Knex } from '@/db/connection'

/** Closes addresses that were checked as bad and opens those that were and are not any more. `where` names the addresses by a. */
export async function applyChecks(
  trx: Knex,
  where: string,
  bindings: unknown[],
): Promise<{ person_id: number; value: string; usable: boolean; why: string }[]> {
  const { rows } = await trx.raw(
    `update address a set usable = c.state <> 'bad', why_unusable = case when c.state = 'bad' then ? || c.why end from email_check c
     where c.key = a.key and a.channel = 'email' and ${where}
       and (case when c.state = 'bad' then a.usable else not a.usable and a.why_unusable like ? end) returning a.person_id, a.value, a.usable, c.why`,
    [BAD, ...bindings, `${BAD}%`] as never,
  )
  return rows
}

export const BAD = 'checked as bad: '
