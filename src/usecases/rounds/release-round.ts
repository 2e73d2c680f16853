import { createHash } from 'node:crypto'
import type { PeopleColumns } from '@/core/columns/people-columns'
import { SCREENED, type ScreenedChannel } from '@/core/columns/person-record'
import { localDate } from '@/core/calendar/local-day'
import { lineText } from '@/core/lists/line'
import type { Evidence, ScreeningMoment } from '@/core/screening/kind'
import type { Rule } from '@/core/screening/rules'
import { type ChannelVerdict, type RecordVerdict, screenedAt, screenRecord } from '@/core/screening/screen-record'
import { changedByOthers, currentPosition } from '@/db/change-log'
import { db, type Knex } from '@/db/connection'
import { copyIn, copyRows } from '@/db/copy-rows'
import { readForRules } from '@/db/directory/read-people'
import type { EntryKind } from '@/db/ledger'
import { shutGate, takeTurn } from '@/db/locks'
import { personRecords } from '@/db/directory/person-records'
import { askEngine } from '@/engine/client'
import type { ReleaseAnswer } from '@/engine/protocol'
import { now } from '@/runtime/clock'
import { log } from '@/runtime/log'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { type EditionRow, listFor } from '@/usecases/lists/lists'
import { withLastRounds } from '@/usecases/lists/named-lists'
import { requalifyFigures } from './requalify'
import { lastRounds, roundFor, type RoundRow } from './rounds'
import { basisOf, differing } from './round-basis'
import { momentNow } from '@/usecases/screening/screening-now'
import { writeCsv } from '@/usecases/directory/write-csv'

/** So often a release begins anew where something changed beneath it. */
const ATTEMPTS = 3

/** Something was recorded while the round was being released, which it must heed: it begins anew. */
class Overtaken extends Error {}

/**
 * Releases a round: freezes who is on it, who is clear by which channel to which address, why, and as of when; makes a
 * file a channel; writes the contacts to come. The engine says who is on the list; who may leave is decided here, from
 * the database, in the transaction that records it. One release at a time.
 *
 * Everybody is frozen first, while others go on working. Then the gate is shut, which writers of suppressions wait for: the
 * moment of the release is taken there, and whoever was changed meanwhile is put through the rules once more. Where that comes
 * out otherwise than it was frozen, all of it is given up and begun anew. `seen` is the basis the person had before them.
 */
export async function releaseRound(actor: Actor, id: number, seen?: string): Promise<void> {
  mustCoordinate(actor, 'Releasing a round')
  for (let attempt = 1; ; attempt++) {
    try {
      return await release(actor, id, seen)
    } catch (error) {
      if (!(error instanceof Overtaken)) throw error
      log.info({ round: id, attempt, why: error.message }, 'a release begins anew')
      if (attempt === ATTEMPTS)
        throw new Refused(`${error.message} Nothing was released. Look at the screening once more, then release the round.`)
    }
  }
}

async function release(actor: Actor, id: number, seen?: string): Promise<void> {
  const { round, list } = await roundFor(actor, id)
  await listFor(actor, list.id, 'use')
  if (round.released_at) throw new Refused('The round is released already.')
  const basis = await basisOf(db(), id, list.id)
  if (seen !== undefined && seen !== basis.print)
    throw new Refused(
      'The list, the rules or who was let through changed since you opened this page. Nothing was released. Load the page again and look at the screening.',
    )
  const { edition, rules, page } = basis
  const { released } = await lastRounds(list.id)
  const begun = await withLastRounds(momentNow(list.zone, released ? [released.id] : [], basis.letThrough), [page])
  const answer = await askEngine('release', { lines: page.lines, named: page.named, rules, moment: begun })
  if (answer.behind !== null) throw new Refused('The database is not responding. Nothing was released. Try again in a minute.')
  if (answer.figures.anyone === 0) throw new Refused('Nobody is clear on any channel, so there is nothing to release.')
  const requalified = released ? await requalifyFigures(released, page, rules, begun) : null
  await db().transaction(async (trx) => {
    await takeTurn(trx)
    await listFor(actor, list.id, 'use', trx, true)
    const held = await roundFor(actor, id, trx, true)
    if (held.round.released_at) throw new Refused('The round is released already.')
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
    await writeFiles(trx, id, list.name, round.number)
    await trx('round_standing').insert({
      round_id: id,
      ids: Buffer.from(answer.standing.ids, 'base64'),
      codes: Buffer.from(answer.standing.codes, 'base64'),
    })
    await writeToCome(trx, id, new Date(moment.asOf))
    await writeComingsAndGoings(trx, actor, { ...round, id }, released, new Date(moment.asOf))
    // Most of what was recorded meanwhile is looked at before the gate is shut, so that it is shut for a moment only.
    const later = await currentPosition(trx)
    const again = { ...moment, exceptRounds: [...moment.exceptRounds, id] }
    await stillAsFrozen(trx, id, await changedByOthers(trx, position), rules, again, answer.on)
    await lastLook(trx, id, now())
    const at = await shutGate(trx)
    await unchanged()
    const meanwhile = await changedByOthers(trx, later)
    if (meanwhile === 'all') throw new Overtaken('Very many records were changed while the round was being released.')
    if (localDate(at.getTime(), list.zone) !== localDate(moment.asOf, list.zone))
      throw new Overtaken('A new day began while the round was being released.')
    await stillAsFrozen(trx, id, meanwhile, rules, { ...again, asOf: at.getTime() }, answer.on)
    await lastLook(trx, id, at, { people: meanwhile, since: new Date(moment.asOf) })
    await trx('round')
      .where({ id })
      .update({
        edition_id: edition.id,
        uses: JSON.stringify(page.uses),
        rules: JSON.stringify(rules),
        as_of: at,
        screened_at: at,
        released_at: at,
        released_by: actor.id,
        figures: JSON.stringify({ list: answer.list, screening: answer.figures, requalified }),
      })
  })
  log.info({ round: id, listed: answer.on.length, clear: answer.figures.anyone }, 'round released')
}

/** Who is on the list, in the order in which people are shown, and why: a table that lasts as long as the transaction. */
async function writeListed(trx: Knex, { on, tookIn }: ReleaseAnswer, edition: EditionRow): Promise<void> {
  const why = edition.lines.map((line) => lineText(line))
  await trx.raw('create temporary table listed (person_id bigint primary key, place int not null, why text not null) on commit drop')
  await copyIn(
    trx,
    'listed',
    ['person_id', 'place', 'why'],
    on.map((id, place) => [id, place, why[tookIn[place]]]),
  )
  await trx.raw('analyze listed')
}

interface Frozen {
  people: number
  clear: Record<ScreenedChannel, number>
  /** By rule: whose channel it closed, and whom it held back everywhere. */
  rules: { out: Record<ScreenedChannel, number>; anyoneOut: number }[]
}

const none = (): Record<ScreenedChannel, number> => ({ email: 0, phone: 0, post: 0 })

/** What screening says of somebody, as it stands in the tables of a round. */
const cellsOf = (verdict: RecordVerdict) => [
  verdict.heldBackBy,
  json(verdict.evidence),
  ...SCREENED.flatMap((channel) => channelCells(verdict.channels[channel])),
]

/**
 * Reads everybody on the list as the database has them now, puts each through the rules one by one, and writes what came
 * of it beside their card as it stands. Gives how many there are, how many are clear by which channel, and what each rule closed.
 */
async function freeze(trx: Knex, round: number, on: readonly number[], rules: Rule[], moment: ScreeningMoment): Promise<Frozen> {
  const columns = await readFor(trx, 'select person_id from listed')
  if (on.some((id) => columns.numberFor(id) === undefined))
    throw new Overtaken('Somebody on the list was withdrawn or merged while the round was being released.')
  const frozen: Frozen = { people: 0, clear: none(), rules: rules.map(() => ({ out: none(), anyoneOut: 0 })) }
  function* verdicts() {
    for (const id of on) {
      const verdict = screenRecord(screenedAt(columns, columns.numberFor(id) as number), rules, moment)
      frozen.people++
      for (const channel of SCREENED) {
        const of = verdict.channels[channel]
        if (of.open) frozen.clear[channel]++
        else frozen.rules[of.rule].out[channel]++
      }
      if (verdict.heldBackBy !== null) frozen.rules[verdict.heldBackBy].anyoneOut++
      yield [id, ...cellsOf(verdict)]
    }
  }
  await verdictTable(trx, 'verdict', verdicts())
  await trx.raw(
    `insert into round_member (round_id, person_id, held_by, evidence, card, why) select ?, v.person_id, v.held_by, v.evidence, ${CARD_OF}, l.why ${MEMBERS('verdict')}`,
    [round],
  )
  await trx.raw(
    `insert into round_channel (round_id, person_id, channel, address_id, sent_to, closed_by, evidence) select ?, v.person_id, c.channel, c.address, ${SENT_TO}, c.closed_by, c.evidence ${CHANNELS_OF('verdict')}`,
    [round],
  )
  return frozen
}

const CARD_OF = `jsonb_build_object('name', p.name, 'given', p.given, 'family', p.family, 'role', p.role, 'organisation', o.name, 'sort', p.sort_key)`
const MEMBERS = (verdict: string) =>
  `from ${verdict} v join listed l using (person_id) join person p on p.id = v.person_id left join organisation o on o.id = p.organisation_id`
const SENT_TO = `case when a.id is not null then jsonb_build_object('value', a.value) || coalesce(a.parts, '{}') end`
const CHANNELS_OF = (verdict: string) =>
  `from ${verdict} v cross join lateral (values ${SCREENED.map((c) => `('${c}', ${c}_to, ${c}_by, ${c}_evidence)`).join(', ')}) c(channel, address, closed_by, evidence) left join address a on a.id = c.address`

/** A table of verdicts that lasts as long as the transaction. */
async function verdictTable(trx: Knex, name: string, rows: Iterable<unknown[]>): Promise<void> {
  const ofChannel = SCREENED.flatMap((channel) => [`${channel}_to`, `${channel}_by`, `${channel}_evidence`])
  await trx.raw(`drop table if exists ${name}`)
  await trx.raw(
    `create temporary table ${name} (person_id bigint, held_by int, evidence jsonb, ${ofChannel.map((column, i) => `${column} ${['bigint', 'int', 'jsonb'][i % 3]}`).join(', ')}) on commit drop`,
  )
  await copyIn(trx, name, ['person_id', 'held_by', 'evidence', ...ofChannel], rows as Iterable<never[]>)
  await trx.raw(`analyze ${name}`)
}

/**
 * Puts those of the list whom others changed through the rules once more, as they are now, and throws Overtaken where anything
 * comes out otherwise than it is frozen: who is clear, by which rule not, to which address, or what stands on their card.
 */
async function stillAsFrozen(
  trx: Knex,
  round: number,
  changed: number[] | 'all',
  rules: Rule[],
  moment: ScreeningMoment,
  on: readonly number[],
): Promise<void> {
  const asked =
    changed === 'all'
      ? on
      : (await trx('listed').whereRaw('person_id = any(?::bigint[])', [changed]).select('person_id')).map((l) => l.person_id as number)
  if (asked.length === 0) return
  const columns = await readFor(
    trx,
    changed === 'all' ? 'select person_id from listed' : `select unnest('{${asked.map(Number).join(',')}}'::bigint[])`,
  )
  if (asked.some((id) => columns.numberFor(id) === undefined))
    throw new Overtaken('Somebody on the list was withdrawn or merged while the round was being released.')
  await verdictTable(
    trx,
    'again',
    asked.map((id) => [id, ...cellsOf(screenRecord(screenedAt(columns, columns.numberFor(id) as number), rules, moment))]),
  )
  const { rows } = await trx.raw(
    `select (select count(*) from (select v.person_id, v.held_by, ${CARD_OF} as card ${MEMBERS('again')}) n join round_member m on m.round_id = ? and m.person_id = n.person_id where (n.held_by, n.card) is distinct from (m.held_by, m.card))
       + (select count(*) from (select v.person_id, c.channel, c.address, ${SENT_TO} as sent_to, c.closed_by ${CHANNELS_OF('again')}) n join round_channel m on m.round_id = ? and m.person_id = n.person_id and m.channel = n.channel
          where (n.address, n.sent_to, n.closed_by) is distinct from (m.address_id, m.sent_to, m.closed_by)) as n`,
    [round, round],
  )
  if (Number(rows[0].n) > 0) throw new Overtaken('Somebody on the list was changed or suppressed while the round was being released.')
}

const json = (evidence: Evidence | null) => (evidence === null ? null : JSON.stringify(evidence))
const channelCells = (of: ChannelVerdict) => (of.open ? [of.address, null, null] : [null, of.rule, json(of.evidence)])

/** Those whose ids a query gives who are live, with what is known of the records that were merged into them. */
async function readFor(trx: Knex, who: string): Promise<PeopleColumns> {
  const columns = await readForRules(trx, who)
  const merged = await trx('person').whereRaw(`merged_into in (${who})`).distinct('merged_into')
  for (const { live, record } of await personRecords(
    trx,
    merged.map((m) => m.merged_into),
  ))
    if (live) columns.put(record)
  return columns
}

/** The database's own figures must be the engine's, rule by rule and channel by channel. */
function hold(answer: ReleaseAnswer, frozen: Frozen): void {
  const { figures } = answer
  const same =
    frozen.people === figures.opening &&
    SCREENED.every((channel) => frozen.clear[channel] === figures.clear[channel]) &&
    frozen.rules.every(
      (rule, i) =>
        rule.anyoneOut === figures.rules[i].anyoneOut && SCREENED.every((channel) => rule.out[channel] === figures.rules[i].out[channel]),
    )
  if (!same) throw new Overtaken('Something changed between the screening and the release.')
}

const COLUMNS: Record<ScreenedChannel, { heading: string[]; parts: string[] }> = {
  email: { heading: ['Email'], parts: ['value'] },
  phone: { heading: ['Phone'], parts: ['value'] },
  post: { heading: ['Street', 'Town', 'Postcode'], parts: ['street', 'town', 'postcode'] },
}
const CARD = ['name', 'given', 'family', 'role', 'organisation']

async function writeFiles(trx: Knex, round: number, list: string, number: number): Promise<void> {
  const slug =
    list
      .normalize('NFKD')
      .toLowerCase()
      .replace(/\p{M}/gu, '')
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '') || 'list'
  for (const channel of SCREENED) {
    const { heading, parts } = COLUMNS[channel]
    const cells: string[][] = []
    await copyRows(
      trx,
      `select ${['m.person_id::text', ...CARD.map((of) => `m.card ->> '${of}'`), ...parts.map((of) => `c.sent_to ->> '${of}'`)].join(', ')}
       from round_channel c join round_member m using (round_id, person_id) join listed l using (person_id)
       where c.round_id = ${Number(round)} and c.channel = '${channel}' and c.closed_by is null order by l.place`,
      (row) => cells.push(Array.from({ length: 1 + CARD.length + parts.length }, () => row.text() ?? '')),
    )
    const bytes = writeCsv(['Record number', 'Name', 'Given name', 'Family name', 'Role', 'Organisation', ...heading], cells)
    const file = {
      round_id: round,
      channel,
      name: `${slug}-round-${number}-${channel}.csv`,
      bytes,
      rows: cells.length,
    }
    await trx('round_file').insert({ ...file, sha256: createHash('sha256').update(bytes).digest('hex') })
  }
}

/**
 * Last look, in SQL alone: nothing that leaves may be suppressed, by whatever the view of what suppressions touch says; what
 * somebody let through may leave all the same, but for an opt-out, a complaint or a register. `only`: what touches some people,
 * and what came into force since.
 */
async function lastLook(trx: Knex, round: number, at: Date, only: { people: number[]; since: Date } | null = null): Promise<void> {
  const touch = only
    ? `(select * from suppression_touch where person_id = any(?::bigint[]) union all select * from suppression_touch where suppression_id in (select id from suppression where since > ? and since <= ?))`
    : 'suppression_touch'
  // Whatever the planner takes the sizes for: what is held is worked out once, and each of it looked for by its person.
  const { rows } = await trx.raw(
    `with held as materialized (
       select coalesce(m.merged_into, t.person_id) as person_id, t.address_id, s.reason, s.channels
       from ${touch} t join suppression_standing s on s.id = t.suppression_id join person m on m.id = t.person_id
       where s.since <= ? and (s.until is null or s.until > ?))
     select count(distinct person_id)::int as caught from (
       select c.person_id from held h cross join lateral (
         select c.* from round_channel c where c.round_id = ? and c.person_id = h.person_id and c.address_id is not null
           and (h.address_id is null or h.address_id = c.address_id) and c.channel = any(h.channels) offset 0) c
       where not (h.reason = 'other' and exists (select 1 from let_through l where l.round_id = c.round_id and l.person_id = c.person_id and l.channel = c.channel and l.taken_back_at is null))
       union all select c.person_id from round_channel c join person p on p.id = c.person_id where c.round_id = ? and c.address_id is not null and p.state <> 'live') caught`,
    [...(only ? [only.people, only.since, at] : []), at, at, round, round] as never,
  )
  if (rows[0].caught > 0) throw new Overtaken(`${rows[0].caught} of those who were clear must not be contacted.`)
}

async function writeToCome(trx: Knex, round: number, since: Date): Promise<void> {
  await trx.raw(
    'insert into contact_to_come (round_id, person_id, channel, since) select round_id, person_id, channel, ? from round_channel where round_id = ? and closed_by is null',
    [since, round],
  )
}

/** What the ledgers of people say of a release: who came onto the list since its last round, who went, who is to be contacted. */
async function writeComingsAndGoings(trx: Knex, actor: Actor, round: RoundRow, earlier: RoundRow | null, at: Date): Promise<void> {
  const say = async (kind: EntryKind, people: string, bindings: (number | null)[]) => {
    await trx.raw(
      `insert into entry (person_id, kind, at, recorded_at, actor_id, round_id, list_id, result) select p.person_id, '${kind}', ?, ?, ?, ?, ?, p.result from (${people}) p`,
      [at, at, actor.id, round.id, round.list_id, ...bindings],
    )
  }
  const before = earlier?.id ?? null
  await say(
    'listed',
    `select l.person_id, null as result from listed l where not exists (select 1 from round_member b where b.round_id = ? and b.person_id = l.person_id) order by l.place`,
    [before],
  )
  await say(
    'unlisted',
    `select b.person_id, null as result from round_member b where b.round_id = ? and not exists (select 1 from listed l where l.person_id = b.person_id) order by b.person_id`,
    [before],
  )
  await say(
    'released',
    `select l.person_id, string_agg(c.channel, ', ' order by c.channel) as result from round_channel c join listed l using (person_id) where c.round_id = ? and c.closed_by is null group by l.person_id, l.place order by l.place`,
    [round.id],
  )
}
