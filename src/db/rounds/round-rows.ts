import type { LetterChoice } from '@/core/rounds/letter-choice'
import type { Steps } from '@/core/rounds/steps'
import type { LetterFigures } from '@/core/rounds/premises-letters'
import type { RequalifyFigures } from '@/core/rounds/requalify'
import type { ListFigures } from '@/core/lists/account'
import type { ScreeningFigures } from '@/core/screening/account'
import type { Rule } from '@/core/screening/rules'
import type { PolicyEditionRow } from '@/db/screening/policies'
import { db, type Knex } from '@/db/connection'
import { now } from '@/runtime/clock'
import { seenBy } from '@/db/lists/list-rows'

export interface RoundRow {
  id: number
  list_id: number
  number: number
  /** 0 in a round itself; its supplements are counted from 1 and have its number. */
  supplement: number
  edition_id: number
  rules: Rule[]
  /** The edition of the policy it began with; null in rounds that are older than policies. */
  policy_edition_id: number | null
  uses: Record<string, number>
  /** Whether it is for those alone whom no earlier round of the list released. */
  only_new: boolean
  started_at: Date
  started_by: string
  requalified_at: Date | null
  screened_at: Date | null
  as_of: Date | null
  released_at: Date | null
  released_by: string | null
  closed_at: Date | null
  closed_by: string | null
  figures: RoundFigures | null
  /** When each channel is worked; null where all are at once. */
  steps: Steps | null
  /** To whom the letters of a round of premises go; null in a round of people, and where nobody chose yet. */
  letters: LetterChoice | null
}

/** What a round keeps of its accounts when it is released. */
export interface RoundFigures {
  list: ListFigures
  screening: ScreeningFigures
  requalified: { listed: RequalifyFigures; clear: RequalifyFigures } | null
}

/** The last released round of a list, and its last round of any kind; no supplements. */
export async function lastRounds(list: number, trx: Knex = db()): Promise<{ released: RoundRow | null; newest: RoundRow | null }> {
  const own = () => trx('round').where({ list_id: list, supplement: 0 }).orderBy('number', 'desc')
  const released = await own().whereNotNull('released_at').first()
  return { released: released ?? null, newest: (await own().first()) ?? null }
}

/** A released round and its released supplements, the round first; of none, nothing. */
export async function withSupplements(trx: Knex, round: Pick<RoundRow, 'list_id' | 'number'> | null): Promise<RoundRow[]> {
  if (!round) return []
  return await trx('round').where({ list_id: round.list_id, number: round.number }).whereNotNull('released_at').orderBy('supplement')
}

/** The supplements of a round, released or not, in their order; one that was closed without a release is none. */
export async function supplementsOf(trx: Knex, { list_id, number }: Pick<RoundRow, 'list_id' | 'number'>): Promise<RoundRow[]> {
  return await trx('round')
    .where({ list_id, number })
    .where('supplement', '>', 0)
    .whereRaw('(released_at is not null or closed_at is null)')
    .orderBy('supplement')
}

/** The round that a supplement belongs to. */
export async function baseOf(trx: Knex, { list_id, number }: Pick<RoundRow, 'list_id' | 'number'>): Promise<RoundRow> {
  return await trx('round').where({ list_id, number, supplement: 0 }).first()
}

/** The last released round of a list and its supplements, whose contacts to come end with its next round. */
export const lastReleasedOf = async (list: number, trx: Knex = db()): Promise<number[]> =>
  (await withSupplements(trx, (await lastRounds(list, trx)).released)).map(({ id }) => id)

/** Adds a supplement to a round that is out, under its rules as they were released; gives its id. */
export async function insertSupplement(trx: Knex, base: RoundRow, editionId: number, actorId: string): Promise<number> {
  const last = await trx('round').where({ list_id: base.list_id, number: base.number }).orderBy('supplement', 'desc').first('supplement')
  const [{ id }] = await trx('round').insert(
    {
      list_id: base.list_id,
      number: base.number,
      supplement: (last?.supplement ?? 0) + 1,
      edition_id: editionId,
      rules: JSON.stringify(base.rules),
      policy_edition_id: base.policy_edition_id,
      started_at: now(),
      started_by: actorId,
      requalified_at: now(),
      only_new: base.only_new,
      steps: base.steps === null ? null : JSON.stringify(base.steps),
    },
    'id',
  )
  return id
}

/** The number of the last released round of some lists, and when it was released. */
export async function lastReleased(trx: Knex, lists: number[]): Promise<{ list_id: number; number: number; at: Date }[]> {
  return await trx('round')
    .whereIn('list_id', lists)
    .whereNotNull('released_at')
    .where({ supplement: 0 })
    .distinctOn('list_id')
    .orderBy([
      { column: 'list_id', order: 'asc' },
      { column: 'number', order: 'desc' },
    ])
    .select('list_id', 'number', 'released_at as at')
}

/** Returns rounds with their lists and what each is called. */
export async function roundsWithList(trx: Knex, roundIds: number[]) {
  return await trx('round as r')
    .join('list as l', 'l.id', 'r.list_id')
    .whereIn('r.id', roundIds)
    .select('r.id', 'l.name', 'l.shared', trx.raw('called(r)'))
}

/** Returns the round of a list that is released and not closed; undefined where there is none. */
export async function roundOut(trx: Knex, id: number) {
  return await trx('round').where({ list_id: id }).whereNotNull('released_at').whereNull('closed_at').first('number')
}

/** Returns any released round of a list; undefined where none was released. */
export async function firstReleased(trx: Knex, id: number) {
  return await trx('round').where({ list_id: id }).whereNotNull('released_at').first('number')
}

/** Returns the round of a list that is not closed; undefined where there is none. */
export async function openRoundNumber(trx: Knex, id: number) {
  return await trx('round').where({ list_id: id }).whereNull('closed_at').first('number')
}

/** Returns the list of a round. */
export async function listOfRound(trx: Knex, id: number) {
  return await trx('round').where({ id }).first('list_id')
}

/** Returns all columns of a round, locked where asked. */
export async function roundRow(trx: Knex, id: number, lock = false): Promise<RoundRow> {
  const round = trx('round').where({ id }).first()
  return await (lock ? round.forNoKeyUpdate() : round)
}

/** Inserts the next round of a list with the policy edition it begins with, and returns its id. */
export async function insertRound(
  trx: Knex,
  {
    listId,
    newest,
    editionId,
    policy,
    actorId,
    onlyNew,
  }: { listId: number; newest: RoundRow | null; editionId: number; policy: PolicyEditionRow | null; actorId: string; onlyNew: boolean },
) {
  return await trx('round').insert(
    {
      list_id: listId,
      number: (newest?.number ?? 0) + 1,
      edition_id: editionId,
      rules: JSON.stringify(policy?.rules ?? []),
      policy_edition_id: policy?.id ?? null,
      started_at: now(),
      started_by: actorId,
      requalified_at: now(),
      only_new: onlyNew,
      // As the round before had them.
      steps: newest?.steps ? JSON.stringify(newest.steps) : null,
    },
    'id',
  )
}

/** Writes after how many days each channel of a round is used; null where all are used at once. */
export async function updateSteps(trx: Knex, id: number, steps: Steps | null): Promise<void> {
  await trx('round')
    .where({ id })
    .update({ steps: steps === null ? null : JSON.stringify(steps) })
}

/** Gives a round that is being built these rules; with `edition`, those of another edition of a policy. */
export async function updateRules(trx: Knex, id: number, rules: Rule[], edition?: number) {
  return await trx('round')
    .where({ id })
    .update({ rules: JSON.stringify(rules), ...(edition === undefined ? {} : { policy_edition_id: edition }) })
}

/** Marks a round as closed, by whom and when. */
export async function updateClosed(trx: Knex, roundId: number, at: Date, actorId: string) {
  return await trx('round').where({ id: roundId }).update({ closed_at: at, closed_by: actorId })
}

/** Returns the rounds that a colleague may see, with what the index shows of each. */
export async function roundRows(trx: Knex, actorId: string) {
  const { rows } = await trx.raw(
    `select r.id, called(r), r.supplement, r.list_id, l.name, r.started_at, r.released_at, r.closed_at, u.name as by,
       l.subject, coalesce(r.figures #>> '{screening,opening}', r.figures #>> '{letters,opening}')::int as listed,
       coalesce(r.figures #>> '{screening,anyone}', r.figures #>> '{letters,clear}')::int as clear,
       case when l.subject = 'premises' then (select count(*) from round_letter w where w.round_id = r.id and w.posted_on is null and w.outcome is null)
         else (select count(*) from contact_to_come t where t.round_id = r.id and t.ended_at is null) end::int as to_come
     from round r join list l on l.id = r.list_id left join "user" u on u.id = coalesce(r.released_by, r.started_by)
     where l.deleted_at is null and (r.supplement = 0 or r.released_at is not null or r.closed_at is null) and ${seenBy('l')}
     order by r.closed_at is not null, coalesce(r.released_at, r.started_at) desc`,
    [actorId],
  )
  return rows
}

/** The released rounds that some records of one person were on, or whose letters to premises name them, of lists that somebody may see; the newest first. */
export async function roundsOfPerson(
  trx: Knex,
  whole: number[],
  actorId: string,
): Promise<{ list: string; listId: number; round: string; roundId: number; heldBack: boolean }[]> {
  const { rows } = await trx.raw(
    `select l.name as list, l.id as "listId", called(r) as round, r.id as "roundId", x."heldBack" from (
       select m.round_id, m.held_by is not null as "heldBack" from round_member m where m.person_id = any(:whole::bigint[])
       union all select distinct w.round_id, false from round_letter w where w.people && :whole::bigint[]) x
     join round r on r.id = x.round_id join list l on l.id = r.list_id
     where role_on(l, :actorId) is not null order by r.released_at desc, r.id desc`,
    { whole, actorId } as never,
  )
  return rows
}

/** What a round that is being built goes by besides its list. */
export async function settingsOf(
  trx: Knex,
  round: number,
): Promise<Pick<RoundRow, 'id' | 'rules' | 'list_id' | 'number' | 'supplement' | 'only_new' | 'steps'>> {
  return await trx('round').where({ id: round }).first('id', 'rules', 'list_id', 'number', 'supplement', 'only_new', 'steps')
}

/** Writes whether a round takes only those who are new since the round before. */
export async function updateOnlyNew(trx: Knex, id: number, only: boolean): Promise<void> {
  await trx('round').where({ id }).update({ only_new: only })
}

/** Marks a round of premises as released, with its account. */
export async function updateLettersReleased(
  trx: Knex,
  round: {
    id: number
    editionId: number
    uses: UsedEditions
    choice: LetterChoice
    figures: { letters: LetterFigures }
    at: Date
    actorId: string
  },
): Promise<void> {
  await trx('round')
    .where({ id: round.id })
    .update({
      edition_id: round.editionId,
      uses: JSON.stringify(round.uses),
      letters: JSON.stringify(round.choice),
      as_of: round.at,
      screened_at: round.at,
      released_at: round.at,
      released_by: round.actorId,
      figures: JSON.stringify(round.figures),
    })
}

/** The released round of the same list before a round. */
export async function releasedBefore(
  trx: Knex,
  { list_id, number }: Pick<RoundRow, 'list_id' | 'number'>,
): Promise<{ id: number; number: number } | null> {
  const before = trx('round').where({ list_id }).where('number', '<', number).whereNotNull('released_at').orderBy('number', 'desc')
  return (await before.first('id', 'number')) ?? null
}

/** The list of a round by its name, and the numbers of its rounds that were released before it. */
export async function earlierRounds(
  trx: Knex,
  { list_id, number }: Pick<RoundRow, 'list_id' | 'number'>,
): Promise<{ list: { id: number; name: string }; numbers: number[] }> {
  const { name } = await trx('list').where({ id: list_id }).first('name')
  const rows = await trx('round')
    .where({ list_id })
    .where('number', '<', number)
    .where({ supplement: 0 })
    .whereNotNull('released_at')
    .orderBy('number')
    .select('number')
  return { list: { id: list_id, name }, numbers: rows.map((row) => row.number) }
}

/** The editions that lines used of the lists they name, by key: what a round freezes. */
export type UsedEditions = Record<string, number>

/** Freezes what a round was released with: its edition, rules, figures and moment. */
export async function updateReleased(
  trx: Knex,
  {
    id,
    editionId,
    pageUses,
    rules,
    at,
    actorId,
    answerList,
    answerFigures,
    requalified,
  }: {
    id: number
    editionId: number
    pageUses: UsedEditions
    rules: Rule[]
    at: Date
    actorId: string
    answerList: ListFigures
    answerFigures: ScreeningFigures
    requalified: { listed: RequalifyFigures; clear: RequalifyFigures } | null
  },
) {
  return await trx('round')
    .where({ id })
    .update({
      edition_id: editionId,
      uses: JSON.stringify(pageUses),
      rules: JSON.stringify(rules),
      as_of: at,
      screened_at: at,
      released_at: at,
      released_by: actorId,
      figures: JSON.stringify({ list: answerList, screening: answerFigures, requalified }),
    })
}

/** The day on which the last round of a list began, in a time zone; undefined where it had none. */
export async function lastRoundDay(trx: Knex, list: number, zone: string): Promise<string | undefined> {
  const { rows } = await trx.raw(
    `select to_char((started_at at time zone ?)::date, 'YYYY-MM-DD') as day from round where list_id = ? and supplement = 0 order by number desc limit 1`,
    [zone, list],
  )
  return rows[0]?.day
}
