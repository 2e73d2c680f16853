import { createHash } from 'node:crypto'
import { type PersonRecord, SCREENED, type ScreenedChannel } from '@/core/columns/person-record'
import { lineText } from '@/core/lists/line'
import type { Rule } from '@/core/screening/rules'
import { type RecordVerdict, screenRecord } from '@/core/screening/screen-record'
import { db, type Knex } from '@/db/connection'
import { insertRows } from '@/db/insert-rows'
import { type NewEntry, writeEntries } from '@/db/ledger'
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

const BLOCK = 2000

interface Card {
  name: string
  given: string
  family: string
  role: string | null
  organisation: string | null
  sort: string
}

type SentTo = { value: string; street?: string | null; town?: string | null; postcode?: string | null }

interface Frozen {
  id: number
  card: Card
  why: string
  verdict: RecordVerdict
  sentTo: Partial<Record<ScreenedChannel, SentTo>>
}

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
    const frozen = await freeze(trx, answer, edition, rules, moment)
    hold(answer, frozen)
    const at = new Date(moment.asOf)
    await writeMembers(trx, id, frozen)
    await writeFiles(trx, id, list.name, round.number, frozen)
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
    await writeToCome(trx, id, frozen, at)
    await writeEntries(trx, await comingsAndGoings(trx, actor, { ...round, id }, released, frozen, at), at)
  })
  log.info({ round: id, listed: answer.on.length, clear: answer.figures.anyone }, 'round released')
}

/** Everybody on the list as the database has them now, put through the rules one by one. */
async function freeze(trx: Knex, answer: ReleaseAnswer, edition: EditionRow, rules: Rule[], moment: ReturnType<typeof momentNow>): Promise<Frozen[]> {
  const frozen: Frozen[] = []
  const why = edition.lines.map(lineText)
  for (let i = 0; i < answer.on.length; i += BLOCK) {
    const ids = answer.on.slice(i, i + BLOCK)
    const records = new Map((await personRecords(trx, ids)).filter((r) => r.live).map(({ record }) => [record.id, record]))
    const cards = new Map((await trx('person as p').leftJoin('organisation as o', 'o.id', 'p.organisation_id').whereRaw('p.id = any(?::bigint[])', [ids]).select('p.id', 'p.name', 'p.given', 'p.family', 'p.role', 'o.name as organisation', 'p.sort_key as sort')).map((c) => [c.id, c]))
    const addresses = new Map((await trx('address').whereRaw('person_id = any(?::bigint[])', [ids]).select('id', 'value', 'parts')).map((a) => [a.id, a]))
    for (const [j, id] of ids.entries()) {
      const record = records.get(id)
      if (!record) throw new Refused('Somebody on the list was withdrawn just now. Look at the screening once more before you release.')
      const { id: _, ...card } = cards.get(id) as Card & { id: number }
      frozen.push({ id, card, why: why[answer.tookIn[i + j]], ...screened(record, rules, moment, addresses) })
    }
  }
  return frozen
}

function screened(record: PersonRecord, rules: Rule[], moment: ReturnType<typeof momentNow>, addresses: Map<number, { value: string; parts: object | null }>) {
  const verdict = screenRecord(record, rules, moment)
  const sentTo: Frozen['sentTo'] = {}
  for (const channel of SCREENED) {
    const of = verdict.channels[channel]
    const address = of.open ? addresses.get(of.address) : undefined
    if (address) sentTo[channel] = { value: address.value, ...address.parts }
  }
  return { verdict, sentTo }
}

/** The database's own figures must be the engine's, channel by channel. */
function hold(answer: ReleaseAnswer, frozen: Frozen[]): void {
  const clear = (channel: ScreenedChannel) => frozen.filter((f) => f.verdict.channels[channel].open).length
  const same = frozen.length === answer.figures.opening && SCREENED.every((channel) => clear(channel) === answer.figures.clear[channel])
  if (!same) throw new Refused('Something changed between the screening and the release, so nothing was released. Look at the screening once more.')
}

async function writeMembers(trx: Knex, round: number, frozen: Frozen[]): Promise<void> {
  for (let i = 0; i < frozen.length; i += BLOCK) {
    const block = frozen.slice(i, i + BLOCK)
    await insertRows(
      trx,
      'round_member',
      { round_id: 'bigint', person_id: 'bigint', held_by: 'int', evidence: 'jsonb', card: 'jsonb', why: 'text' },
      block.map((f) => ({ round_id: round, person_id: f.id, held_by: f.verdict.heldBackBy, evidence: f.verdict.evidence, card: f.card, why: f.why })),
    )
    await insertRows(
      trx,
      'round_channel',
      { round_id: 'bigint', person_id: 'bigint', channel: 'text', address_id: 'bigint', sent_to: 'jsonb', closed_by: 'int', evidence: 'jsonb' },
      block.flatMap((f) =>
        SCREENED.map((channel) => {
          const of = f.verdict.channels[channel]
          const common = { round_id: round, person_id: f.id, channel }
          return of.open ? { ...common, address_id: of.address, sent_to: f.sentTo[channel], closed_by: null, evidence: null } : { ...common, address_id: null, sent_to: null, closed_by: of.rule, evidence: of.evidence }
        }),
      ),
    )
  }
}

const COLUMNS: Record<ScreenedChannel, { heading: string[]; cells: (to: SentTo) => string[] }> = {
  email: { heading: ['E-mail'], cells: (to) => [to.value] },
  phone: { heading: ['Phone'], cells: (to) => [to.value] },
  post: { heading: ['Street', 'Town', 'Postcode'], cells: (to) => [to.street ?? '', to.town ?? '', to.postcode ?? ''] },
}

async function writeFiles(trx: Knex, round: number, list: string, number: number, frozen: Frozen[]): Promise<void> {
  const slug = list.normalize('NFKD').toLowerCase().replace(/\p{M}/gu, '').replace(/[^a-z0-9]+/g, '-').replace(/^-|-$/g, '') || 'list'
  for (const channel of SCREENED) {
    const { heading, cells } = COLUMNS[channel]
    const clear = frozen.filter((f) => f.verdict.channels[channel].open)
    const bytes = writeCsv(
      ['Id', 'Name', 'Given name', 'Family name', 'Role', 'Organisation', ...heading],
      clear.map((f) => [String(f.id), f.card.name, f.card.given, f.card.family, f.card.role ?? '', f.card.organisation ?? '', ...cells(f.sentTo[channel] as SentTo)]),
    )
    const file = { round_id: round, channel, name: `${slug}-round-${number}-${channel === 'email' ? 'e-mail' : channel}.csv`, bytes, rows: clear.length }
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

async function writeToCome(trx: Knex, round: number, frozen: Frozen[], since: Date): Promise<void> {
  const rows = frozen.flatMap((f) => SCREENED.filter((c) => f.verdict.channels[c].open).map((channel) => ({ round_id: round, person_id: f.id, channel, since })))
  for (let i = 0; i < rows.length; i += BLOCK) await insertRows(trx, 'contact_to_come', { round_id: 'bigint', person_id: 'bigint', channel: 'text', since: 'timestamptz' }, rows.slice(i, i + BLOCK))
}

/** What the ledgers of people say of a release: who came onto the list since its last round, who went, who is to be contacted. */
async function comingsAndGoings(trx: Knex, actor: Actor, round: RoundRow, earlier: RoundRow | null, frozen: Frozen[], at: Date): Promise<NewEntry[]> {
  const before = new Set<number>(earlier ? (await trx('round_member').where({ round_id: earlier.id }).select('person_id')).map((m) => m.person_id) : [])
  const on = new Set(frozen.map((f) => f.id))
  const common = { at, actor: actor.id, round: round.id, list: round.list_id }
  return [
    ...frozen.filter((f) => !before.has(f.id)).map((f) => ({ ...common, person: f.id, kind: 'listed' as const })),
    ...[...before].filter((id) => !on.has(id)).map((person) => ({ ...common, person, kind: 'unlisted' as const })),
    ...frozen.filter((f) => f.verdict.heldBackBy === null).map((f) => ({ ...common, person: f.id, kind: 'released' as const, result: SCREENED.filter((c) => f.verdict.channels[c].open).join(', ') })),
  ]
}
