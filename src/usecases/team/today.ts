import { dueAfter, rhythmText } from '@/core/calendar/rhythm'
import { datePlusDays, localDate } from '@/core/calendar/local-day'
import { ASKS, ASKS_NAME } from '@/core/changes/asks'
import { goodThrough } from '@/core/screening/register'
import { dateText } from '@/core/text/written'
import type { Move, TodayPage } from '@/core/views/today-views'
import { db } from '@/db/connection'
import { withoutHeld } from '@/usecases/rounds/round-index'
import { introductionsAsked } from '@/db/contact/tie-rows'
import { CHANNEL_NAME } from '@/core/records/channels'
import { mailRunsStuck } from '@/db/rounds/mail-rows'
import { sharesOfColleague } from '@/db/rounds/share-rows'
import { openCounts } from '@/db/directory/likenesses'
import { wantsDigest } from '@/db/team/digest-rows'
import { tasksByColleague, tasksGiven, tasksOf } from '@/db/team/task-rows'
import { failedBatches, listsWithRhythm, proposalsWaiting, registerVersions, roundsWaiting, rowsInDoubt } from '@/db/team/today-rows'
import { now } from '@/runtime/clock'
import { settings } from '@/runtime/settings'
import { unhandledByAsks } from '@/usecases/changes/changes-page'
import { type Actor, mayCoordinate } from './actor'
import { taskView } from './tasks'
import { team } from './team'

/** A register that runs out within so many days is said beforehand (our own figure, no source). */
const SOON = 7

/** What is somebody's move today, and nothing else: each line goes when it is done. */
export async function todayPage(actor: Actor): Promise<TodayPage> {
  const today = localDate(now().getTime(), settings().ARCH_ZONE)
  const changes = await unhandledByAsks(actor)
  const moves: Move[] = [
    ...ASKS.flatMap((asks): Move[] =>
      changes[asks] === 0
        ? []
        : [
            {
              key: `changes ${asks}`,
              group: 'changes',
              text: ASKS_NAME[asks],
              n: changes[asks],
              href: `/changes?tab=${asks}`,
              late: asks === 'answer',
            },
          ],
    ),
    ...(await dueLists(actor, today)),
    ...(await rounds(actor, today)),
    ...(await shares(actor, today)),
    ...(mayCoordinate(actor) ? [...(await registers(today)), ...(await doubts(actor)), ...(await duplicates())] : []),
    ...(await introductionsAsked(db(), actor.id)).map(
      (own): Move => ({
        key: `introduction ${own.id}`,
        group: 'introductions',
        text: `${own.asked_by_name} asks you to introduce them to ${own.person}`,
        n: null,
        href: `/directory/people/${own.person_id}`,
        late: false,
      }),
    ),
    ...(await proposalsWaiting(db(), actor.id)).map(
      ({ id, name, n }): Move => ({ key: `proposals ${id}`, group: 'proposals', text: name, n, href: `/lists/${id}`, late: false }),
    ),
    ...(await mailRunsStuck(db(), actor.id)).map(
      ({ round, called, list, state, waiting }): Move => ({
        key: `mail ${round}`,
        group: 'work',
        text: `The emails of round ${called} of ${list} ${state === 'failed' ? 'broke off' : 'are paused'}`,
        n: waiting,
        href: `/rounds/${round}/letter`,
        late: state === 'failed',
      }),
    ),
    ...(await failedBatches(db(), actor.id)).map(
      ({ id, name }): Move => ({ key: `batch ${id}`, group: 'work', text: `${name} failed`, n: null, href: `/intake/${id}`, late: true }),
    ),
  ]
  return {
    today,
    me: actor.id,
    digest: await wantsDigest(db(), actor.id),
    tasks: (await tasksOf(db(), actor.id, actor.id)).map((row) => taskView(row, actor.id, today)),
    given: (await tasksGiven(db(), actor.id)).map((row) => taskView(row, actor.id, today)),
    moves,
    changes,
    colleagues: await team(actor),
    team: actor.post === 'manager' ? await tasksByColleague(db(), today) : null,
  }
}

async function dueLists(actor: Actor, today: string): Promise<Move[]> {
  return (await listsWithRhythm(db(), actor.id, settings().ARCH_ZONE)).flatMap(({ id, name, subject, rhythm, last, open }): Move[] => {
    const due = dueAfter(rhythm, last)
    // A round that is being built is the list's next step itself.
    if (due > today || open) return []
    const text = `${name}, due ${due === today ? 'today' : dateText(due)}, ${rhythmText(rhythm)}`
    return [
      {
        key: `list ${id}`,
        group: 'lists',
        text,
        n: null,
        href: subject === 'person' ? `/lists/${id}/requalify` : `/lists/${id}`,
        late: due < today,
      },
    ]
  })
}

async function rounds(actor: Actor, today: string): Promise<Move[]> {
  const waiting = await Promise.all(
    (await roundsWaiting(db(), actor.id, { zone: settings().ARCH_ZONE, today })).map(async (round) => ({
      ...round,
      to_come: await withoutHeld(round.id, round.subject, round.to_come),
    })),
  )
  return waiting.flatMap(({ id, called, list, supplement, open_beside, released, to_come, due }): Move[] => {
    const name = `Round ${called} of ${list}`
    if (!released)
      return [{ key: `round ${id}`, group: 'rounds', text: `${name}: release it`, n: null, href: `/rounds/${id}`, late: false }]
    // What is planned for later weeks is nobody’s move yet.
    if (due === 0 && to_come > 0) return []
    if (due !== null && due > 0)
      return [
        {
          key: `round ${id}`,
          group: 'rounds',
          text: `${name}: contacts planned up to today`,
          n: due,
          href: `/rounds/${id}`,
          late: false,
        },
      ]
    // A supplement closes with its round, and a round once its supplements are done.
    if (to_come === 0 && (supplement || open_beside)) return []
    const text = to_come > 0 ? `${name}: contacts to make` : `${name}: every contact is made, close it`
    return [{ key: `round ${id}`, group: 'rounds', text, n: to_come > 0 ? to_come : null, href: `/rounds/${id}`, late: false }]
  })
}

/** Contacts of rounds that were shared out to somebody and are still to be made. */
async function shares(actor: Actor, today: string): Promise<Move[]> {
  return (await sharesOfColleague(db(), actor.id, today)).map(({ round, called, name, channel, open }) => ({
    key: `share ${round} ${channel}`,
    group: 'rounds',
    text: `Round ${called} of ${name}: your contacts by ${CHANNEL_NAME[channel]}`,
    n: open,
    href: `/rounds/${round}`,
    late: false,
  }))
}

async function registers(today: string): Promise<Move[]> {
  return (await registerVersions(db())).flatMap(({ name, version, good_for }): Move[] => {
    const through = goodThrough(version, good_for)
    if (through > datePlusDays(today, SOON)) return []
    const text = through < today ? `${name} is too old since ${dateText(through)}` : `${name} may be used through ${dateText(through)}`
    return [
      {
        key: `register ${name}`,
        group: 'registers',
        text: `${text}: import a newer file`,
        n: null,
        href: '/intake',
        late: through < today,
      },
    ]
  })
}

async function doubts(actor: Actor): Promise<Move[]> {
  return (await rowsInDoubt(db(), actor.id)).map(({ id, name, n }) => ({
    key: `doubts ${id}`,
    group: 'records',
    text: `Rows in doubt in ${name}`,
    n,
    href: `/intake/${id}`,
    late: false,
  }))
}

async function duplicates(): Promise<Move[]> {
  const [{ open }] = await openCounts(db())
  return open === 0
    ? []
    : [{ key: 'duplicates', group: 'records', text: 'Possible duplicates', n: open, href: '/directory/doubles', late: false }]
}
