import type { FileLayout } from '@/core/rounds/file-layout'
import type { Done } from '@/core/rounds/procedure'
import type { Channel } from '@/core/records/channels'
import type { Knex } from '@/db/connection'

/** What was done in a round once it was out, in the order in which it was done. */
export async function doneIn(trx: Knex, round: number): Promise<Done[]> {
  const { rows } = await trx.raw<{
    rows: { is: Done['is']; channel: Channel; layout: FileLayout | null; among: string[] | null; subject: string | null; by: string }[]
  }>(
    `select d.is, d.channel, d.layout, d.among, d.subject, coalesce(u.name, 'somebody who left') as by from (
       select 'shared' as is, g.channel, null::jsonb as layout, null::text as subject, g.shared_by as who, g.shared_at as at, 0 as n,
         array(select n.name from jsonb_array_elements(g.how -> 'colleagues') c join "user" n on n.id = c ->> 'id' order by n.name) as among
       from round_sharing g where g.round_id = :round
       union all select 'sent', 'email', null, r.subject, r.begun_by, r.begun_at, 0, null from mail_run r where r.round_id = :round
       union all select 'taken', f.channel, f.layout, null, f.actor_id, f.at, f.id, null from round_file_taken f where f.round_id = :round) d
     left join "user" u on u.id = d.who order by d.at, d.n`,
    { round } as never,
  )
  return rows.map(({ is, channel, layout, among, subject, by }): Done => {
    if (is === 'sent') return { is, subject: subject ?? '', by }
    return is === 'shared' ? { is, channel, among: among ?? [], by } : { is, channel, layout, by }
  })
}

/** The layouts in which files of a round were taken, each once, by channel. */
export async function layoutsTaken(trx: Knex, round: number): Promise<{ channel: Channel; layout: FileLayout }[]> {
  const { rows } = await trx.raw<{ rows: { channel: Channel; layout: FileLayout }[] }>(
    `select distinct channel, layout, layout::text as print from round_file_taken where round_id = ? and layout is not null order by channel, print`,
    [round],
  )
  return rows.map(({ channel, layout }) => ({ channel, layout }))
}
