import type { AnswerTo } from '@/engine/protocol'
import type { Evidence, ScreeningMoment } from '@/core/screening/kind'
import { type ScreeningAccount, screeningAccount, type Waits } from '@/core/screening/account'
import { andTogether } from '@/db/screening/contacts-around'
import { aroundSince, isOfSet, type Rule } from '@/core/screening/rules'
import { type ChannelVerdict, type RecordVerdict, screenedAt, screenRecord, withWaiting } from '@/core/screening/screen-record'
import type { Knex } from '@/db/connection'
import { Overtaken } from './overtaken'
import { closedByAny, countDiffering, insertChannels, insertMembers, listedAmong, readFor, verdictTable } from '@/db/rounds/frozen-round'
import { CHANNELS, type Channel } from '@/core/records/channels'

interface Frozen {
  people: number
  clear: Record<Channel, number>
  /** By the id of a rule: whose channel it closed, and whom it held back everywhere. */
  rules: Map<string, { out: Record<Channel, number>; anyoneOut: number }>
}

const NOBODY_WAITS: Pick<ScreeningAccount, 'waiting'> = { waiting: new Map() }

const throughOf = ({ letThrough }: ScreeningMoment, person: number): Channel[] =>
  letThrough.filter((own) => own.person === person).map(({ channel }) => channel)

const none = (): Record<Channel, number> => ({ email: 0, phone: 0, post: 0, direct: 0 })

/** What screening says of somebody, as it stands in the tables of a round. */
const cellsOf = (verdict: RecordVerdict) => [
  verdict.heldBackBy,
  json(verdict.evidence),
  ...CHANNELS.flatMap((channel) => channelCells(verdict.channels[channel])),
]

/**
 * Reads everybody on the list as the database has them now, puts each through the rules one by one, and writes what came
 * of it beside their card as it stands. Gives how many there are, how many are clear by which channel, and what each rule closed.
 */
export async function freeze(trx: Knex, round: number, on: readonly number[], rules: Rule[], moment: ScreeningMoment): Promise<Frozen> {
  const seated = [...new Set(moment.seats?.of.map((seat) => Number(seat.person)))]
  const also = seated.length > 0 ? ` union select unnest('{${seated.join(',')}}'::bigint[])` : ''
  const columns = await readFor(trx, `select person_id from listed${also}`, aroundSince(rules, moment))
  if (on.some((id) => columns.numberFor(id) === undefined))
    throw new Overtaken('Somebody on the list was withdrawn or merged while the round was being released.')
  const frozen: Frozen = { people: 0, clear: none(), rules: new Map(rules.map(({ id }) => [id, { out: none(), anyoneOut: 0 }])) }
  const of = (rule: string) => frozen.rules.get(rule) as { out: Record<Channel, number>; anyoneOut: number }
  // Rules about a set look at everybody who is left, so they are worked out first, from what was read just now.
  const { waiting } = rules.some(isOfSet) ? screeningAccount(columns.numbers(on), rules, columns, moment) : NOBODY_WAITS
  function* verdicts() {
    for (const id of on) {
      const n = columns.numberFor(id) as number
      const verdict = withWaiting(screenRecord(screenedAt(columns, n), rules, moment), waiting.get(n), throughOf(moment, id))
      frozen.people++
      for (const channel of CHANNELS) {
        const own = verdict.channels[channel]
        if (own.open) frozen.clear[channel]++
        else of(own.rule).out[channel]++
      }
      if (verdict.heldBackBy !== null) of(verdict.heldBackBy).anyoneOut++
      yield [id, ...cellsOf(verdict)]
    }
  }
  await verdictTable(trx, 'verdict', verdicts())
  await insertMembers(trx, round)
  await insertChannels(trx, round)
  return frozen
}

/**
 * Puts those of the list whom others changed through the rules once more, as they are now, and throws Overtaken where anything
 * comes out otherwise than it is frozen: who is clear, by which rule not, to which address, or what stands on their card. Whoever waits
 * behind others of a set still waits, as long as no rule about one record closes them.
 */
export async function stillAsFrozen(
  trx: Knex,
  round: number,
  changed: number[] | 'all',
  rules: Rule[],
  moment: ScreeningMoment,
  on: readonly number[],
): Promise<void> {
  const around = aroundSince(rules, moment)
  // What happened to one of an organisation or household may close the others, where a rule asks about them.
  const touched = changed === 'all' || around === null ? changed : await andTogether(trx, changed)
  const asked = touched === 'all' ? on : (await listedAmong(trx, touched)).map((l) => l.person_id as number)
  if (asked.length === 0) return
  // Who of a set comes first hangs on contacts of others too: then all of the sets are worked out anew.
  if (around !== null && rules.some((rule) => isOfSet(rule) && aroundSince([rule], moment) !== null))
    throw new Overtaken('Somebody of an organisation or household on the list was changed while the round was being released.')
  const columns = await readFor(
    trx,
    changed === 'all' ? 'select person_id from listed' : `select unnest('{${asked.map(Number).join(',')}}'::bigint[])`,
    around,
  )
  if (asked.some((id) => columns.numberFor(id) === undefined))
    throw new Overtaken('Somebody on the list was withdrawn or merged while the round was being released.')
  const waited = await waitedOf(trx, round, asked, rules)
  await verdictTable(
    trx,
    'again',
    asked.map((id) => {
      const verdict = screenRecord(screenedAt(columns, columns.numberFor(id) as number), rules, moment)
      return [id, ...cellsOf(withWaiting(verdict, waited.get(id), throughOf(moment, id)))]
    }),
  )
  const rows = await countDiffering(trx, round)
  if (Number(rows[0].n) > 0) throw new Overtaken('Somebody on the list was changed or suppressed while the round was being released.')
}

/** By which rule about a set some people of a round wait, as it is frozen. */
async function waitedOf(trx: Knex, round: number, people: readonly number[], rules: Rule[]): Promise<Map<number, Waits[]>> {
  const ofSet = rules.filter(isOfSet).map(({ id }) => id)
  if (ofSet.length === 0) return new Map()
  const waited = new Map<number, Waits[]>()
  for (const { person_id, channel, rule, evidence } of await closedByAny(trx, round, people, ofSet))
    waited.set(person_id, [...(waited.get(person_id) ?? []), { rule, evidence, channels: [channel] }])
  // In the order of the policy: the first that covers a channel closes it.
  for (const own of waited.values()) own.sort((a, b) => ofSet.indexOf(a.rule) - ofSet.indexOf(b.rule))
  return waited
}

const json = (evidence: Evidence | null) => (evidence === null ? null : JSON.stringify(evidence))

const channelCells = (of: ChannelVerdict): (string | number | null)[] =>
  of.open ? [of.address, null, null] : [null, of.rule, json(of.evidence)]

/** The database's own figures must be the engine's, rule by rule and channel by channel. */
export function hold(answer: AnswerTo<'release'>, frozen: Frozen): void {
  const { figures } = answer
  const same =
    frozen.people === figures.opening &&
    CHANNELS.every((channel) => frozen.clear[channel] === figures.clear[channel]) &&
    figures.rules.every((told) => {
      const own = frozen.rules.get(told.rule)
      return own?.anyoneOut === told.anyoneOut && CHANNELS.every((channel) => own.out[channel] === told.out[channel])
    })
  if (!same) throw new Overtaken('Something changed between the screening and the release.')
}
