import type { AnswerTo } from '@/engine/protocol'
import type { Confirmed } from '@/core/views/round-views'
import { CHANNEL_NAME, CHANNELS } from '@/core/records/channels'
import { countText } from '@/core/text/written'
import { EXTRA_COLUMNS } from '@/core/rounds/file-layout'
import { aWeekBy, byWeeks, oneChannelIn } from '@/core/screening/one-channel'
import { localDate } from '@/core/calendar/local-day'
import { lineText } from '@/core/lists/line'
import { changedByOthers, currentPosition } from '@/db/change-log'
import { db, type Knex } from '@/db/connection'
import type { EntryKind } from '@/db/ledger'
import { shutGate, takeTurn } from '@/db/locks'
import { askEngine } from '@/engine/client'
import { now } from '@/runtime/clock'
import { log } from '@/runtime/log'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { listFor } from '@/usecases/lists/open-list'
import { withLastRounds } from '@/usecases/lists/named-lists'
import { requalifyFigures } from './requalify'
import { calledOf, roundFor } from './rounds'
import { mustBeOpen } from './start-supplement'
import { basisOf, differing } from './round-basis'
import { momentNow, withHolidays } from '@/usecases/screening/screening-now'
import { freeze, hold, stillAsFrozen } from './freeze-round'
import { writeFiles } from './write-round-files'
import { Overtaken, unlessOvertaken } from './overtaken'
import { openersFor } from './openers'
import { insertOpeners, lockOpeners, openersFallen } from '@/db/rounds/opener-rows'
import type { EditionRow } from '@/db/lists/list-rows'
import { lastRounds, type RoundRow, updateReleased, withSupplements } from '@/db/rounds/round-rows'
import {
  analyzeListed,
  copyListed,
  countCaught,
  createListed,
  insertEntries,
  insertStanding,
  measureRounds,
  writeToCome,
} from '@/db/rounds/frozen-round'

/**
 * Releases a round: freezes who is on it, who is clear by which channel to which address, why, and as of when; makes a
 * file a channel; writes the contacts to come. The engine says who is on the list; who may leave is decided here, from
 * the database, in the transaction that records it. One release at a time.
 *
 * Everybody is frozen first, while others go on working. Then the gate is shut, which writers of suppressions wait for: the
 * moment of the release is taken there, and whoever was changed meanwhile is put through the rules once more. Where that comes
 * out otherwise than it was frozen, all of it is given up and begun anew. Of what the person `confirmed`, another basis is refused,
 * and so are more people on a channel; fewer are what the rules are for.
 */
export async function releaseRound(actor: Actor, id: number, confirmed?: Confirmed): Promise<void> {
  mustCoordinate(actor, 'Releasing a round')
  await unlessOvertaken(id, 'screening', () => release(actor, id, confirmed))
}

async function release(actor: Actor, id: number, confirmed?: Confirmed): Promise<void> {
  const { round, list } = await roundFor(actor, id)
  await listFor(actor, list.id, 'use')
  if (round.released_at) throw new Refused('The round is released already.')
  const basis = await basisOf(db(), id, list.id)
  if (confirmed && confirmed.basis !== basis.print)
    throw new Refused(
      'The list, the rules or who was let through changed since you opened this page. Nothing was released. Load the page again and look at the screening.',
    )
  const { edition, rules, page } = basis
  // What ends with this round; a supplement goes out beside it.
  const before = round.supplement === 0 ? await withSupplements(db(), (await lastRounds(list.id)).released) : []
  const begun = withHolidays(await withLastRounds({ ...momentNow(list.zone, [], basis.letThrough), ...basis.beside }, [page]), rules)
  const answer = await askEngine('release', { lines: page.lines, named: page.named, rules, moment: begun })
  if (answer.behind !== null) throw new Refused('The database is not responding. Nothing was released. Try again in a minute.')
  if (answer.figures.anyone === 0) throw new Refused('Nobody is clear on any channel, so there is nothing to release.')
  const more = confirmed && CHANNELS.find((channel) => answer.figures.clear[channel] > confirmed.clear[channel])
  if (more)
    throw new Refused(
      `The list, or who is held back, changed since you confirmed: ${countText(answer.figures.clear[more])} people can be contacted by ${CHANNEL_NAME[more]}, not ${countText(confirmed.clear[more])}. Nothing was released. Look at the screening once more, then release the round.`,
    )
  const requalified = before.length > 0 ? await requalifyFigures(before, page, rules, begun) : null
  await db().transaction(async (trx) => {
    await takeTurn(trx)
    await listFor(actor, list.id, 'use', trx, true)
    const held = await roundFor(actor, id, trx, true)
    if (held.round.released_at) throw new Refused('The round is released already.')
    await mustBeOpen(trx, held.round)
    const unchanged = async () => {
      const changed = differing(basis, await basisOf(trx, id, list.id))
      if (changed) throw new Refused(`${changed} just now. Nothing was released. Look at the screening once more before you release.`)
    }
    await unchanged()
    const position = await currentPosition(trx)
    const moment = { ...begun, asOf: now().getTime() }
    await writeListed(trx, answer, edition)
    const frozen = await freeze(trx, id, answer.on, rules, moment)
    hold(answer, frozen)
    const plan = oneChannelIn(rules)
    const weeks = plan && byWeeks(plan) ? plan : null
    await writeToCome(trx, id, new Date(moment.asOf), {
      from: localDate(moment.asOf, list.zone),
      steps: basis.steps,
      aWeek: weeks && {
        email: aWeekBy(weeks, 'email'),
        phone: aWeekBy(weeks, 'phone'),
        post: aWeekBy(weeks, 'post'),
        direct: aWeekBy(weeks, 'direct'),
      },
    })
    await measureRounds(trx)
    await writeOpeners(trx, id, list.id, localDate(moment.asOf, list.zone))
    await writeFiles(trx, {
      id,
      list: list.name,
      called: calledOf(round),
      extra: EXTRA_COLUMNS.filter((own) =>
        own === 'Opener' ? basis.openers.length > 0 : own === 'Planned week' ? weeks !== null : basis.steps !== null && weeks === null,
      ),
    })
    await insertStanding(trx, id, answer.standing.ids, answer.standing.codes)
    await writeComingsAndGoings(trx, actor, { ...round, id }, before, new Date(moment.asOf))
    // Most of what was recorded meanwhile is looked at before the gate is shut, so that it is shut for a moment only.
    const later = await currentPosition(trx)
    const again = { ...moment, exceptRounds: [...moment.exceptRounds, id] }
    await stillAsFrozen(trx, id, await changedByOthers(trx, position), rules, again, answer.on)
    // Before the gate: whoever settles a change locks it first and writes a suppression then.
    await lockOpeners(trx, id)
    const exempt = (day: Date) => ({
      countries: rules.flatMap((rule) => (rule.kind === 'register' ? (rule.established ?? []) : [])),
      day: localDate(day.getTime(), list.zone),
    })
    await lastLook(trx, id, now(), exempt(now()))
    const at = await shutGate(trx)
    await unchanged()
    const meanwhile = await changedByOthers(trx, later)
    if (meanwhile === 'all') throw new Overtaken('Very many records were changed while the round was being released.')
    if (localDate(at.getTime(), list.zone) !== localDate(moment.asOf, list.zone))
      throw new Overtaken('A new day began while the round was being released.')
    await stillAsFrozen(trx, id, meanwhile, rules, { ...again, asOf: at.getTime() }, answer.on)
    await lastLook(trx, id, at, exempt(at), { people: meanwhile, since: new Date(moment.asOf) })
    if ((await openersFallen(trx, id)) > 0)
      throw new Overtaken(
        'A change that somebody’s opener rests on was taken, set aside or told otherwise while the round was being released.',
      )
    await updateReleased(trx, {
      id,
      editionId: edition.id,
      pageUses: page.uses,
      rules,
      at,
      actorId: actor.id,
      answerList: answer.list,
      answerFigures: answer.figures,
      requalified,
    })
  })
  log.info({ round: id, listed: answer.on.length, clear: answer.figures.anyone }, 'round released')
}

/** Gives everybody who is clear the opener of their latest fresh change, where there is one that they never got. */
async function writeOpeners(trx: Knex, round: number, list: number, today: string): Promise<void> {
  const openers = await openersFor(
    trx,
    list,
    `select person_id from round_member where round_id = ${Number(round)} and held_by is null`,
    today,
  )
  await insertOpeners(
    trx,
    [...openers].map(([person_id, { change, text }]) => ({ round_id: round, person_id, change_id: change, text })),
  )
}

/** Who is on the list, in the order in which people are shown, and why: a table that lasts as long as the transaction. */
async function writeListed(trx: Knex, { on, tookIn }: AnswerTo<'release'>, edition: EditionRow): Promise<void> {
  const why = edition.lines.map((line) => lineText(line))
  await createListed(trx)
  await copyListed(
    trx,
    on.map((id, place) => [id, place, why[tookIn[place]]]),
  )
  await analyzeListed(trx)
}

/**
 * Last look, in SQL alone: nothing that leaves may be suppressed, by whatever the view of what suppressions touch says; what
 * somebody let through may leave all the same, but for an opt-out, a complaint or a register; so may a number on a register in a country
 * where an established relationship opens it. `only`: what touches some people,
 * and what came into force since.
 */
async function lastLook(
  trx: Knex,
  round: number,
  at: Date,
  exempt: { countries: string[]; day: string },
  only: { people: number[]; since: Date } | null = null,
): Promise<void> {
  const touch = only
    ? `(select * from suppression_touch where person_id = any(?::bigint[]) union all select * from suppression_touch where suppression_id = any(array(select id from suppression where since > ? and since <= ?)))`
    : 'suppression_touch'
  // Whatever the planner takes the sizes for: what is held is worked out once, and each of it looked for by its person.
  const rows = await countCaught(trx, { touch, only, at, round, exempt })
  if (rows[0].caught > 0) throw new Overtaken(`${rows[0].caught} of those who were clear must not be contacted.`)
}

/** What the ledgers of people say of a release: who came onto the list since its last round, who went, who is to be contacted. */
async function writeComingsAndGoings(trx: Knex, actor: Actor, round: RoundRow, earlier: RoundRow[], at: Date): Promise<void> {
  const say = async (kind: EntryKind, people: string, bindings: (number | number[])[]) => {
    await insertEntries(trx, { kind, people, at, actorId: actor.id, roundId: round.id, list: round.list_id, bindings })
  }
  const before = earlier.map(({ id }) => id)
  await say(
    'listed',
    `select l.person_id, null as result from listed l where not exists (select 1 from round_member b where b.round_id = any(?::bigint[]) and b.person_id = l.person_id) order by l.place`,
    [before],
  )
  await say(
    'unlisted',
    `select b.person_id, null as result from round_member b where b.round_id = any(?::bigint[]) and not exists (select 1 from listed l where l.person_id = b.person_id) order by b.person_id`,
    [before],
  )
  await say(
    'released',
    `select l.person_id, string_agg(c.channel, ', ' order by c.channel) as result from round_channel c join listed l using (person_id) where c.round_id = ? and c.closed_by is null group by l.person_id, l.place order by l.place`,
    [round.id],
  )
}
