import { localDate } from '@/core/calendar/local-day'
import { earlierStays, sharedPosts, staysOf } from '@/core/contact/shared-past'
import { byCloseness, type Tie } from '@/core/contact/ties'
import { dateText } from '@/core/text/written'
import type { IntroductionView, WhoKnows } from '@/core/views/tie-views'
import { recordStands } from '@/db/changes/report-rows'
import {
  contactsByColleague,
  introductionsTo,
  type IntroductionRow,
  knownOutside,
  movesOf,
  ownPosts,
  saidToKnow,
} from '@/db/contact/tie-rows'
import { db } from '@/db/connection'
import { now } from '@/runtime/clock'
import { settings } from '@/runtime/settings'
import { type Actor, Refused } from '@/usecases/team/actor'

/** Who of the team knows somebody, through what, the closest first; who outside knows them; and what introductions were asked for. */
export async function whoKnows(actor: Actor, person: number): Promise<WhoKnows> {
  if (!(await recordStands(db(), 'person', person))) throw new Refused('There is no such person in the directory.', 'not found')
  const zone = settings().ARCH_ZONE
  const today = localDate(now().getTime(), zone)
  const said = await saidToKnow(db(), person, zone)
  const outside = (await knownOutside(db(), person, zone)).map((own) => ({ ...own, colleagues: own.colleagues ?? [] }))
  const employers = await employersShared(person, zone, today)
  const ties: Tie[] = [
    ...said.map(({ user, name, how, day }): Tie => ({ user, name, kind: how, last: day, evidence: `says so since ${dateText(day)}` })),
    ...(await contactsByColleague(db(), person, zone)).map(
      ({ user, name, kind, times, last }): Tie => ({
        user,
        name,
        kind,
        last,
        evidence: times === 1 ? `on ${dateText(last)}` : `${times} times, last on ${dateText(last)}`,
      }),
    ),
    ...employers
      .filter(({ overlap }) => overlap === 'yes')
      .map(
        ({ user, name, organisation, to }): Tie => ({
          user,
          name,
          kind: 'shared employer',
          last: to ?? today,
          evidence: `both at ${organisation}`,
        }),
      ),
    ...outside.flatMap((own) =>
      own.colleagues.map(({ user, name, last }): Tie => ({ user, name, kind: 'through somebody', last, evidence: `through ${own.name}` })),
    ),
  ]
  return {
    person,
    colleagues: byCloseness(ties),
    outside,
    employers,
    introductions: (await introductionsTo(db(), person)).map((row) => introductionView(row, actor.id)),
    own: said.find(({ user }) => user === actor.id)?.how ?? null,
    me: actor.id,
  }
}

async function employersShared(person: number, zone: string, today: string): Promise<WhoKnows['employers']> {
  const known = await movesOf(db(), person, zone)
  if (!known) return []
  const stays = [...staysOf(known.moves, known.first, known.now, today), ...earlierStays(known.earlier, known.first)]
  const posts = (await ownPosts(db())).map((row) => ({ ...row, from: row.from_day, to: row.to_day }))
  return sharedPosts(stays, posts, today).map(({ organisation, post, overlap }) => {
    const { user_id, name, from, to } = post as (typeof posts)[number]
    return { user: user_id, name, organisation, from, to, overlap }
  })
}

/** An introduction as whoever looks sees it. */
export function introductionView(row: IntroductionRow, me: string): IntroductionView {
  return {
    id: row.id,
    person: { id: row.person_id, name: row.person },
    by: row.asked_by_name,
    of: row.asked_of_name,
    through: row.through,
    note: row.note,
    at: row.asked_at.toISOString(),
    state: row.state,
    answer: row.answer,
    mine: row.state !== 'asked' ? null : row.asked_of === me ? 'to answer' : row.asked_by === me ? 'asked' : null,
  }
}
