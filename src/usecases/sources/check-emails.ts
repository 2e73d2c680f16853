import { dayText } from '@/core/text/written'
import type { Of } from '@/core/sources/enquiry'
import type { CheckState } from '@/core/sources/source'
import { db } from '@/db/connection'
import { now } from '@/runtime/clock'
import { fillingSource } from '@/sources/http-source'
import { type Actor, mustCoordinate } from '@/usecases/team/actor'
import { makeEnquiry } from './enquiries'
import { answering } from './ask-or-refuse'
import { askedAbout, peopleOf } from './people-of'
import { addressesToCheck } from '@/db/sources/email-checks'
import { writeItems } from '@/db/sources/enquiry-rows'
import { numberSetting } from '@/db/team/settings'

const DAY = 86_400_000

/**
 * Makes ready to check the e-mail addresses of everybody on a list or in a batch: which there are, which were checked not
 * long ago and cost nothing, and what the rest may cost. Nothing is asked yet.
 */
export async function prepareCheck(actor: Actor, asked: Of): Promise<number> {
  mustCoordinate(actor, 'Checking addresses')
  const { of, list } = await askedAbout(actor, asked)
  const { people, of: meant } = await peopleOf(actor, of)
  const prices = await answering(() => fillingSource.prices())
  return db().transaction(async (trx) => {
    const id = await makeEnquiry(trx, actor, {
      list,
      kind: 'check',
      source: 'checker',
      name: `E-mail addresses of ${meant.name}`,
      asked: { kind: 'check', of: meant },
      state: 'ready',
      prices,
    })
    const since = new Date(now().getTime() - (await numberSetting('email-check-good-for', trx)) * DAY)
    for (let i = 0; i < people.length; i += 5000) {
      const rows = await addressesToCheck(trx, people, i)
      await writeItems(
        trx,
        id,
        rows.map((r: { key: string; value: string; name: string; id: number; state: CheckState | null; why: string; at: Date | null }) => ({
          key: r.key,
          data: { title: r.value, detail: r.name, person: r.id, email: r.value },
          state: r.at !== null && r.at > since ? ('known' as const) : ('open' as const),
          why: r.at !== null && r.at > since ? `${r.state} on ${dayText(r.at)}: ${r.why}` : null,
        })),
      )
    }
    return id
  })
}
