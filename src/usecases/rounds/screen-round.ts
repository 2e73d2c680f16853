import type { RoundAccount, ScreeningView } from '@/core/views/round-views'
import type { ScreeningFigures } from '@/core/screening/account'
import type { Evidence } from '@/core/screening/kind'
import { NO_WAY } from '@/core/screening/no-way-to-reach'
import { type Rule, ruleNamed } from '@/core/screening/rules'
import { letThroughVerdict, reachOf, screenRecord, withWaiting } from '@/core/screening/screen-record'
import { db } from '@/db/connection'
import { askEngine } from '@/engine/client'
import type { Actor } from '@/usecases/team/actor'
import { evidenceTexts } from '@/usecases/screening/evidence'
import { PAGE } from '@/usecases/lists/list-account'
import { withLastRounds } from '@/usecases/lists/named-lists'
import { basisOf, type RoundBasis } from './round-basis'
import { clearMarks } from './clear-marks'
import { stoppedBy } from '@/db/rounds/stopped'
import { withAround } from '@/usecases/screening/with-around'
import { peoplePage } from '@/usecases/directory/people-page'
import { roundFor } from './rounds'
import { momentNow, withHolidays } from '@/usecases/screening/screening-now'
import { openersFor } from './openers'
import { openersOfRound, theseIds } from '@/db/rounds/opener-rows'
import { localDate } from '@/core/calendar/local-day'
import { channelsOf, letThroughBy, membersPage, waysClear } from '@/db/rounds/frozen-round'
import { CHANNEL_NAME, CHANNELS } from '@/core/records/channels'

/** Tabs of people who are clear. */
const CLEAR: ScreeningView['tab'][] = ['clear', 'channel', 'ways']

/** The screening account of a round and a page of its people: worked out anew while it is built, frozen once released. */
export async function screenRound(
  actor: Actor,
  id: number,
  view: ScreeningView,
  offset = 0,
  draft?: Rule[],
  signal?: AbortSignal,
): Promise<RoundAccount> {
  const { round, list } = await roundFor(actor, id)
  if (round.released_at) return frozenAccount(id, round.rules, round.figures?.screening as ScreeningFigures, view, offset)
  const basis = await basisOf(db(), id, list.id, draft)
  const { rules, letThrough, print } = basis
  const { answer, moment } = await askScreening(list, basis, view, { offset, limit: PAGE }, `${actor.id}:round-${id}`, signal)
  const people = await peoplePage(answer.ids)
  await withAround(
    db(),
    people.map(({ record }) => record),
    rules,
    moment,
  )
  const waiting = new Map(answer.waiting)
  const passed = (person: number) => letThrough.filter((own) => own.person === person).map(({ channel }) => channel)
  const verdicts = people.map(({ record }) => withWaiting(screenRecord(record, rules, moment), waiting.get(record.id), passed(record.id)))
  const shown = verdicts.map((verdict): { rule: string; evidence: Evidence } | null => {
    if (view.tab === 'rule' && view.channel) {
      const channel = verdict.channels[view.channel]
      return channel.open ? null : { rule: channel.rule, evidence: channel.evidence }
    }
    return verdict.heldBackBy === null ? null : { rule: verdict.heldBackBy, evidence: verdict.evidence as Evidence }
  })
  const texts = await evidenceTexts(shown.map((s) => s?.evidence ?? null))
  const through = await letThroughBy(id, answer.ids)
  const openers = CLEAR.includes(view.tab) ? await openersFor(db(), list.id, theseIds(answer.ids), localDate(moment.asOf, list.zone)) : null
  const marks = CLEAR.includes(view.tab)
    ? await clearMarks(
        people.map(({ record }) => record),
        rules,
        moment,
      )
    : null
  return {
    figures: answer.figures,
    basis: print,
    page: {
      total: answer.total,
      behind: answer.behind === null ? null : new Date(answer.behind).toISOString(),
      people: people.map(({ view: person }, i) => {
        const own = through.get(person.id) ?? []
        const may = CHANNELS.filter((channel) => {
          const of = verdicts[i].channels[channel]
          return !of.open && letThroughVerdict(people[i].record, channel, rules, moment).open
        })
        const by = shown[i]?.rule
        const because = by === undefined ? undefined : { title: ruleNamed(rules, by), detail: texts[i] }
        return {
          ...person,
          reach: reachOf(verdicts[i]),
          ...(because ? { because } : {}),
          ...(marks?.has(person.id) ? { marks: marks.get(person.id) } : {}),
          ...(openers?.has(person.id) ? { opener: openers.get(person.id)?.text } : {}),
          through: { let: own, may },
        }
      }),
    },
  }
}

/** What the engine says of the screening of a round that is being built, and as of when. `screen` names who looks: a newer question takes the place of theirs. */
export async function askScreening(
  list: { zone: string },
  { page: { lines, named }, rules, letThrough, beside }: RoundBasis,
  view: ScreeningView,
  page: { offset: number; limit: number },
  screen?: string,
  signal?: AbortSignal,
) {
  const asked = await withLastRounds({ ...momentNow(list.zone, [], letThrough), ...beside }, [{ lines, named }])
  const moment = withHolidays(asked, rules)
  return { moment, answer: await askEngine('screen', { screen, lines, named, rules, moment, view, page }, signal) }
}

/** The people of a released round, as they were frozen. */
async function frozenAccount(
  id: number,
  rules: Rule[],
  figures: ScreeningFigures,
  view: ScreeningView,
  offset: number,
): Promise<RoundAccount> {
  const { total, rows: members } = await membersPage(db(), id, view, { offset, limit: PAGE })
  const channels = await channelsOf(
    db(),
    members.map((m) => m.person_id),
    id,
  )
  const ids = members.map((m) => m.person_id as number)
  const views = new Map((await peoplePage(ids)).map(({ view: v }) => [v.id, v]))
  const shown = members.map((m) => {
    const own = channels.filter((c) => c.person_id === m.person_id)
    const of =
      view.tab === 'rule' && view.channel ? own.find((c) => c.channel === view.channel) : { closed_by: m.held_by, evidence: m.evidence }
    return { own, rule: of?.closed_by ?? null, evidence: (of?.evidence ?? null) as Evidence | null }
  })
  const stopped = view.tab === 'stopped' ? await stoppedBy(db(), id, ids) : new Map<number, number>()
  const texts = await evidenceTexts(
    shown.map((s, i) => {
      const suppression = stopped.get(members[i].person_id)
      return suppression === undefined ? s.evidence : { kind: 'suppression', suppression, of: 'person', reason: 'other' }
    }),
  )
  const openers = await openersOfRound(db(), id, ids)
  const through = await letThroughBy(
    id,
    members.map((m) => m.person_id),
  )
  return {
    // Rounds that were released before these were kept have them counted.
    figures: { ...figures, ways: figures.ways ?? (await waysClear(db(), id)) },
    basis: null,
    page: {
      total,
      behind: null,
      people: members.flatMap((m, i) => {
        const person = views.get(m.person_id)
        if (!person) return []
        const { own, rule } = shown[i]
        const reach = Object.fromEntries(
          CHANNELS.map((channel) => {
            const closed = own.find((c) => c.channel === channel)?.closed_by
            return [channel, closed === null ? 'open' : closed === NO_WAY || closed === undefined ? 'none' : 'closed']
          }),
        ) as typeof person.reach
        const passes = through.get(m.person_id) ?? []
        const because = stopped.has(m.person_id)
          ? { title: 'Stopped since the release', detail: texts[i] }
          : rule === null
            ? { title: m.why, detail: passes.map((l) => `let through by ${CHANNEL_NAME[l.channel]}: ${l.reason} (${l.by})`).join(' · ') }
            : { title: ruleNamed(rules, rule), detail: texts[i] }
        return [
          {
            ...person,
            name: m.card.name,
            role: m.card.role,
            organisation: m.card.organisation,
            reach,
            because,
            ...(openers.has(m.person_id) ? { opener: openers.get(m.person_id) } : {}),
          },
        ]
      }),
    },
  }
}
