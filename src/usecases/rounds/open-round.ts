import type { RoundPage } from '@/core/views/round-views'
import { ruleKind } from '@/core/screening/rules'
import { db } from '@/db/connection'
import type { Actor } from '@/usecases/team/actor'
import { lastRoundOf } from './round-procedure'
import { roundHead } from './round-head'
import { allowancesOf } from './round-basis'
import { calledOf, roundFor, stateOf } from './rounds'
import { baseOf, type RoundRow, supplementsOf } from '@/db/rounds/round-rows'
import { momentNow } from '@/usecases/screening/screening-now'
import { newestFitCheck } from '@/db/rounds/fit-rows'
import { tallyOf } from './fit-tally'
import { mailRunOf } from '@/db/rounds/mail-rows'
import { sharesOfRound } from '@/db/rounds/share-rows'
import { CHANNELS } from '@/core/records/channels'
import { layoutRows } from '@/db/rounds/layout-rows'
import { fileHeading } from '@/core/rounds/file-layout'
import { fileRows } from '@/db/rounds/round-files'
import { letThroughOf, withRegister } from '@/db/screening/let-through'
import { now } from '@/runtime/clock'
import { leftOutOf, stoppedOf } from '@/db/rounds/stopped'
import { localDate } from '@/core/calendar/local-day'
import { countToCome, stepsOfRound, weeksOfRound } from '@/db/rounds/contacts-to-come'
import { differenceText, ruleDifferences } from '@/core/screening/differences'
import { newestEdition, policyEdition, type PolicyEditionRow, policyOf, ruleChangesOf } from '@/db/screening/policies'
import type { ListRow } from '@/db/lists/list-rows'

/** A round's page without its figures, which come with `screenRound`. */
export async function openRound(actor: Actor, id: number): Promise<RoundPage> {
  const { round, list } = await roundFor(actor, id)
  const head = await roundHead(actor, round, list)
  const rules = round.released_at ? round.rules : await withRegister(round.rules)
  const beside = round.released_at ? {} : await allowancesOf(db(), round, rules)
  const moment = { ...momentNow(list.zone), ...beside, ...(round.as_of ? { asOf: round.as_of.getTime() } : {}) }
  const files = await fileRows(db(), id)
  const leftOut = files.length === 0 ? [] : await leftOutOf(db(), id, now())
  const toCome = await countToCome(db(), id)
  const began = round.policy_edition_id === null ? null : await policyEdition(db(), round.policy_edition_id)
  const [change] = await ruleChangesOf(db(), id)
  const said = began ? ruleDifferences(began.rules, round.rules).map((d) => differenceText(d, began.rules, round.rules)) : []
  return {
    ...head,
    rules: rules.map((rule) => {
      const kind = ruleKind(rule)
      return { rule, phrases: kind.sentence(rule), note: kind.note(rule, moment), optional: kind.optional }
    }),
    policy: began && {
      id: began.policy_id,
      name: began.name,
      edition: began.number,
      newest: round.released_at ? null : await newerThan(list, began),
    },
    ruleChanges: change && said.length > 0 ? { said, by: change.by ?? '', at: change.at.toISOString(), why: change.why } : null,
    files: files.map(({ extra, ...file }) => ({
      ...file,
      heading: fileHeading(file.channel, extra),
      withdrawnAt: file.withdrawnAt?.toISOString() ?? null,
      leftOut: leftOut.filter((own) => own.channel === file.channel).length,
    })),
    mailedAt: (await mailRunOf(db(), id))?.begun_at.toISOString() ?? null,
    onlyNew: round.only_new,
    steps: round.steps,
    stepsMade: round.released_at && round.steps ? [...(await stepsOfRound(db(), id))].map(([channel, made]) => ({ channel, ...made })) : [],
    weeks: round.released_at ? await weeksOfRound(db(), id, localDate(round.released_at.getTime(), list.zone)) : [],
    last: await lastRoundOf(round, rules, head.edition),
    shares: round.released_at ? await sharesTold(id) : [],
    layouts: round.released_at ? await layoutRows(db()) : [],
    check: await checkOf(id),
    requalified: round.figures?.requalified?.listed ?? null,
    letThrough: new Set((await letThroughOf(id)).map((l) => l.person)).size,
    hasEarlier: round.number > 1 && round.supplement === 0,
    ...(await besideSupplements(round)),
    toCome,
    stopped: (await stoppedOf(db(), id)).map((own) => ({
      ...own,
      takenBy: own.takenBy.map(({ name, at }) => ({ name, at: at.toISOString() })),
    })),
  }
}

/** The supplements of a round, or the round of a supplement. */
async function besideSupplements(round: RoundRow): Promise<Pick<RoundPage, 'supplements' | 'base'>> {
  if (round.supplement > 0) {
    const base = await baseOf(db(), round)
    return { supplements: [], base: { id: base.id, called: calledOf(base), closed: base.closed_at !== null } }
  }
  const supplements = (await supplementsOf(db(), round)).map((own) => ({
    id: own.id,
    called: calledOf(own),
    state: stateOf(own),
    clear: own.figures?.screening.anyone ?? null,
  }))
  return { supplements, base: null }
}

/** How the contacts of a round are shared out, a channel each. */
async function sharesTold(id: number): Promise<RoundPage['shares']> {
  const rows = await sharesOfRound(db(), id)
  return CHANNELS.flatMap((channel) => {
    const own = rows.filter((row) => row.channel === channel)
    if (own.length === 0) return []
    const colleagues = own.map(({ id: user, name, people, open }) => ({ id: user, name, people, open }))
    return [{ channel, by: own[0].by ?? 'somebody who left', at: own[0].at.toISOString(), colleagues }]
  })
}

/** What the newest fit check of a round has come to. */
async function checkOf(id: number): Promise<RoundPage['check']> {
  const check = await newestFitCheck(db(), id)
  if (!check) return null
  const { outcome, seen, whole } = await tallyOf(db(), check)
  return {
    outcome: check.outcome ?? outcome,
    ended: check.ended_at !== null,
    seen: seen.filter(({ counts }) => counts !== null).length,
    sample: seen.length,
    share: whole.share,
  }
}

/** What the policy of the list has come to since a round began: another edition, or another policy altogether. */
async function newerThan(list: ListRow, began: PolicyEditionRow): Promise<{ policy: string; edition: number } | null> {
  const policy = await policyOf(db(), list)
  const { id, number } = await newestEdition(db(), policy.id)
  return id === began.id ? null : { policy: policy.name, edition: number }
}
