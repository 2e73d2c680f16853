import { allowancesOf } from '@/usecases/rounds/round-basis'
import type { PolicyTrial } from '@/core/views/policy-views'
import { ruleNamed } from '@/core/screening/rules'
import { screenRecord, withWaiting } from '@/core/screening/screen-record'
import { reachBy } from '@/core/screening/glance'
import { withRegister } from '@/db/screening/let-through'
import { lastReleasedOf } from '@/db/rounds/round-rows'
import { latestEdition } from '@/db/lists/list-rows'
import { askEngine } from '@/engine/client'
import type { Actor } from '@/usecases/team/actor'
import { peoplePage } from '@/usecases/directory/people-page'
import { PAGE } from '@/usecases/lists/list-account'
import { listFor } from '@/usecases/lists/open-list'
import { expanded, withLastRounds } from '@/usecases/lists/named-lists'
import { evidenceTexts } from './evidence'
import { policyRules } from './policy-for'
import { db } from '@/db/connection'
import { withAround } from './with-around'
import { momentNow, withHolidays } from './screening-now'

export interface PolicyTrialAsked {
  list: number
  before?: unknown
  after?: unknown
  tab: 'held' | 'freed'
  offset: number
}

/** What other rules would do to a list: how many would be held back or be clear, and a page of those who come out differently. */
export async function tryPolicy(actor: Actor, asked: PolicyTrialAsked, signal?: AbortSignal): Promise<PolicyTrial> {
  const { tab, offset } = asked
  const list = await listFor(actor, asked.list)
  const [before, after] = [await withRegister(policyRules(asked.before)), await withRegister(policyRules(asked.after))]
  const used = await allowancesOf(db(), { id: 0, list_id: list.id, supplement: 0 }, [...before, ...after])
  const page = await expanded((await latestEdition(list.id)).lines)
  const moment = withHolidays(await withLastRounds({ ...momentNow(list.zone, await lastReleasedOf(list.id)), ...used }, [page]), [
    ...before,
    ...after,
  ])
  const answer = await askEngine(
    'differ',
    {
      screen: `${actor.id}:policy`,
      lines: page.lines,
      named: page.named,
      before,
      after,
      moment,
      view: { tab },
      page: { offset, limit: PAGE },
    },
    signal,
  )
  const rules = tab === 'held' ? after : before
  const people = await peoplePage(
    answer.ids,
    (record) => reachBy(record, rules, moment),
    (records) => withAround(db(), records, rules, moment),
  )
  const waiting = new Map(answer.waiting)
  const verdicts = people.map(({ record }) => withWaiting(screenRecord(record, rules, moment), waiting.get(record.id), []))
  const texts = await evidenceTexts(verdicts.map((verdict) => verdict.evidence))
  return {
    clear: { before: answer.before.anyone, after: answer.after.anyone },
    held: answer.held,
    freed: answer.freed,
    page: {
      total: answer.total,
      behind: answer.behind === null ? null : new Date(answer.behind).toISOString(),
      people: people.map(({ view }, i) => {
        const by = verdicts[i].heldBackBy
        return by === null ? view : { ...view, because: { title: ruleNamed(rules, by), detail: texts[i] } }
      }),
    },
  }
}
