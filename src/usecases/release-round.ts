import { createHash } from 'node:crypto'
import type { PeopleColumns } from '@/core/columns/people-columns'
import { SCREENED, type ScreenedChannel } from '@/core/columns/person-record'
import { lineText } from '@/core/lists/line'
import type { Evidence, ScreeningMoment } from '@/core/screening/kind'
import type { Rule } from '@/core/screening/rules'
import { type ChannelVerdict, screenedAt, screenRecord } from '@/core/screening/screen-record'
import { db, type Knex } from '@/db/connection'
import { copyIn, copyRows } from '@/db/copy-rows'
import { readForRules } from '@/db/everybody'
import type { EntryKind } from '@/db/ledger'
import { personRecords } from '@/db/person-records'
import { askEngine } from '@/engine/client'
import type { ReleaseAnswer } from '@/engine/protocol'
import { log } from '@/runtime/log'
import { type Actor, mustCoordinate, Refused } from './actor'
import { type EditionRow, latestEdition } from './lists'
import { expanded, withLastRounds } from './named-lists'
import { requalifyFigures } from './requalify'
import { lastRounds, roundFor, type RoundRow } from './rounds'
import { letThroughOf, momentNow, withRegister } from './screening-now'
import { writeCsv } from './write-csv'

/**
 * Releases a round: freezes who is on it, who is clear by which channel to which address, why, and as of when; makes a
 * file a channel; writes the contacts to come. The engine says who is on the list; who may leave is decided here, from
 * the database, in the transaction that records it, with writers of suppressions made to wait. Where the two disagree,
 * nothing is released. One release at a time.
 */
export async function releaseRound(actor: Actor, id: number): Promise<void> {
  mustCoordinate(actor, 'Releasing a round')
  const { round, list } = await roundFor(actor, id)
  if (round.released_at) throw new Refused('The round is released already.')
  const edition = await latestEdition(list.id)
  const rules = await withRegister(round.rules)
  const { released } = await lastRounds(list.id)
  const page = await expanded(edition.lines)
  const moment = await withLastRounds(momentNow(list.zone, released ? [released.id] : [], await letThroughOf(id)), [page])
  const answer = await askEngine('release', { lines: page.lines, named: page.named, rules, moment })
  if (answer.behind !== null) throw new Refused('The database cannot be heard just now, so nothing was released. Try again in a moment.')
  if (answer.figures.anyone === 0) throw new Refused('Nobody is clear on any channel, so there is nothing to release.')
  const requalified = released ? await requalifyFigures(released, page, rules, moment) : null
  await db().transaction(async (trx) => {
    await trx.raw(`select pg_advisory_xact_lock(hashtext('release'))`)
    await trx.raw(`select pg_advisory_xact_lock(hashtext('suppressions'))`)
    const held = await roundFor(actor, id, trx, true)
    if (held.round.released_at) throw new Refused('The round is released already.')
    const still = await letThroughOf(id, trx)
    if (still.length !== moment.letThrough.length) throw new Refused('Somebody was let through just now. Look at the screening once more before you release.')
    if (JSON.stringify((await expanded(edition.lines, {}, trx)).uses) !== JSON.stringify(page.uses)) throw new Refused('A list that this one names was saved again just now. Look at the screening once more before you release.')
    if ((await latestEdition(list.id, trx)).number !== edition.number) throw new Refused('The list was saved again just now. Look at the screening once more before you release.')
    const at = new Date(moment.asOf)
    await writeListed(trx, answer, edition)
    hold(answer, await freeze(trx, id, answer.on, rules, moment))
    await writeFiles(trx, id, list.name, round.number)
    await trx('round_standing').insert({ round_id: id, ids: Buffer.from(answer.standing.ids, 'base64'), codes: Buffer.from(answer.standing.codes, 'base64') })
    await checkOnceMore(trx, id, at)
    await trx('round').where({ id }).update({
      edition_id: edition.id,
      uses: JSON.stringify(page.uses),
      rules: JSON.stringify(rules),
      as_of: at,
      screened_at: at,
      released_at: at,
      released_by: actor.id,
      figures: JSON.stringify({ list: answer.list, screening: answer.figures, requalified }),
    })
    await writeToCome(trx, id, at)
    await writeComingsAndGoings(trx, actor, { ...round, id }, released, at)
  })
  log.info({ round: id, listed: answer.on.length, clear: answer.figures.anyone }, 'round released')
}

/** Who is on the list, in the order in which people are shown, and why: a table that lasts as long as the transaction. */
async function writeListed(trx: Knex, { on, tookIn }: ReleaseAnswer, edition: EditionRow): Promise<void> {
  const why = edition.lines.map((line) => lineText(line))
  await trx.raw('create temporary table listed (person_id bigint primary key, place int not null, why text not null) on commit drop')
  await copyIn(trx, 'listed', ['person_id', 'place', 'why'], on.map((id, place) => [id, place, why[tookIn[place]]]))
  await trx.raw('analyze listed')
}

interface Frozen {
  people: number
  clear: Record<ScreenedChannel, number>
}

/**
 * Reads everybody on the list as the database has them now, puts each through the rules one by one, and writes what came
 * of it beside their card as it stands. Gives how many there are and how many are clear by which channel.
 */
async function freeze(trx: Knex, round: number, on: readonly number[], rules: Rule[], moment: ScreeningMoment): Promise<Frozen> {
  const columns = await readListed(trx)
  if (on.some((id) => columns.numberFor(id) === undefined)) throw new Refused('Somebody on the list was withdrawn just now. Look at the screening once more before you release.')
  const frozen: Frozen = { people: 0, clear: { email: 0, phone: 0, post: 0 } }
  function* verdicts() {
    for (const id of on) {
      const verdict = screenRecord(screenedAt(columns, columns.numberFor(id) as number), rules, moment)
      frozen.people++
      for (const channel of SCREENED) if (verdict.channels[channel].open) frozen.clear[channel]++
      yield [id, verdict.heldBackBy, json(verdict.evidence), ...SCREENED.flatMap((channel) => channelCells(verdict.channels[channel]))]
    }
  }
  const ofChannel = SCREENED.flatMap((channel) => [`${channel}_to`, `${channel}_by`, `${channel}_evidence`])
  await trx.raw(`create temporary table verdict (person_id bigint, held_by int, evidence jsonb, ${ofChannel.map((name, i) => `${name} ${['bigint', 'int', 'jsonb'][i % 3]}`).join(', ')}) on commit drop`)
  await copyIn(trx, 'verdict', ['person_id', 'held_by', 'evidence', ...ofChannel], verdicts())
  await trx.raw('analyze verdict')
  await trx.raw(
    `insert into round_member (round_id, person_id, held_by, evidence, card, why)
     select ?, p.id, v.held_by, v.evidence, jsonb_build_object('name', p.name, 'given', p.given, 'family', p.family, 'role', p.role, 'organisation', o.name, 'sort', p.sort_key), l.why
     from verdict v join listed l using (person_id) join person p on p.id = v.person_id left join organisation o on o.id = p.organisation_id`,
    [round],
  )
  await trx.raw(
    `insert into round_channel (round_id, person_id, channel, address_id, sent_to, closed_by, evidence)
     select ?, v.person_id, c.channel, c.address, case when a.id is not null then jsonb_build_object('value', a.value) || coalesce(a.parts, '{}') end, c.closed_by, c.evidence
     from verdict v cross join lateral (values ${SCREENED.map((c) => `('${c}', ${c}_to, ${c}_by, ${c}_evidence)`).join(', ')}) c(channel, address, closed_by, evidence) left join address a on a.id = c.address`,
    [round],
  )
  return frozen
}

const json = (evidence: Evidence | null) => (evidence === null ? null : JSON.stringify(evidence))
const channelCells = (of: ChannelVerdict) => (of.open ? [of.address, null, null] : [null, of.rule, json(of.evidence)])

/** Those of `listed` who are live, with what is known of the records that were merged into them. */
async function readListed(trx: Knex): Promise<PeopleColumns> {
  const columns = await readForRules(trx, 'select person_id from listed')
  const merged = await trx('person').whereRaw('merged_into in (select person_id from listed)').distinct('merged_into')
  for (const { live, record } of await personRecords(trx, merged.map((m) => m.merged_into))) if (live) columns.put(record)
  return columns
}

/** The database's own figures must be the engine's, channel by channel. */
function hold(answer: ReleaseAnswer, frozen: Frozen): void {
  const same = frozen.people === answer.figures.opening && SCREENED.every((channel) => frozen.clear[channel] === answer.figures.clear[channel])
  if (!same) throw new Refused('Something changed between the screening and the release, so nothing was released. Look at the screening once more.')
}

const COLUMNS: Record<ScreenedChannel, { heading: string[]; parts: string[] }> = {
  email: { heading: ['E-mail'], parts: ['value'] },
  phone: { heading: ['Phone'], parts: ['value'] },
  post: { heading: ['Street', 'Town', 'Postcode'], parts: ['street', 'town', 'postcode'] },
}
const CARD = ['name', 'given', 'family', 'role', 'organisation']

async function writeFiles(trx: Knex, round: number, list: string, number: number): Promise<void> {
  const slug = list.normalize('NFKD').toLowerCase().replace(/\p{M}/gu, '').replace(/[^a-z0-9]+/g, '-').replace(/^-|-$/g, '') || 'list'
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
    const file = { round_id: round, channel, name: `${slug}-round-${number}-${channel === 'email' ? 'e-mail' : channel}.csv`, bytes, rows: cells.length }
    await trx('round_file').insert({ ...file, sha256: createHash('sha256').update(bytes).digest('hex') })
  }
}

/**
 * Last look, in SQL alone: no address that leaves may be suppressed by its own key, its domain, the person or their
 * organisation; what somebody let through may leave all the same, but for an opt-out, a complaint or a register.
 */
async function checkOnceMore(trx: Knex, round: number, at: Date): Promise<void> {
  const { rows } = await trx.raw(
    `with standing as (select s.id, s.reason, s.channels, s.organisation_id, coalesce(m.merged_into, s.person_id) as person_id from suppression_standing s left join person m on m.id = s.person_id where s.since <= ? and (s.until is null or s.until > ?)),
     leaving as (
       select c.person_id, c.channel, a.key, a.domain_key, p.state, p.organisation_id, o.key as organisation_key,
         exists (select 1 from let_through l where l.round_id = c.round_id and l.person_id = c.person_id and l.channel = c.channel and l.taken_back_at is null) as let_through
       from round_channel c join address a on a.id = c.address_id join person p on p.id = c.person_id left join organisation o on o.id = p.organisation_id
       where c.round_id = ?),
     caught as (
       select l.person_id, l.channel, l.let_through, s.reason, s.channels from leaving l join standing s on s.person_id = l.person_id
       union all select l.person_id, l.channel, l.let_through, s.reason, s.channels from leaving l join standing s on s.organisation_id = l.organisation_id
       union all select l.person_id, l.channel, l.let_through, s.reason, s.channels from leaving l join suppression_key k on k.key = l.key join standing s on s.id = k.suppression_id
       union all select l.person_id, l.channel, l.let_through, s.reason, s.channels from leaving l join suppression_key k on k.key = l.domain_key join standing s on s.id = k.suppression_id
       union all select l.person_id, l.channel, l.let_through, s.reason, s.channels from leaving l join suppression_key k on k.key = l.organisation_key join standing s on s.id = k.suppression_id
       union all select l.person_id, l.channel, false, 'gone', array[l.channel] from leaving l where l.state <> 'live')
     select count(distinct person_id)::int as caught from caught where channel = any(channels) and not (let_through and reason = 'other')`,
    [at, at, round],
  )
  if (rows[0].caught > 0) throw new Refused(`${rows[0].caught} of those who were clear must not be contacted. Nothing was released; look at the screening once more.`)
}

async function writeToCome(trx: Knex, round: number, since: Date): Promise<void> {
  await trx.raw('insert into contact_to_come (round_id, person_id, channel, since) select round_id, person_id, channel, ? from round_channel where round_id = ? and closed_by is null', [since, round])
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
  await say('listed', `select l.person_id, null as result from listed l where not exists (select 1 from round_member b where b.round_id = ? and b.person_id = l.person_id) order by l.place`, [before])
  await say('unlisted', `select b.person_id, null as result from round_member b where b.round_id = ? and not exists (select 1 from listed l where l.person_id = b.person_id) order by b.person_id`, [before])
  await say('released', `select l.person_id, string_agg(c.channel, ', ' order by c.channel) as result from round_channel c join listed l using (person_id) where c.round_id = ? and c.closed_by is null group by l.person_id, l.place order by l.place`, [round.id])
}
