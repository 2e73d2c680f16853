import { organisationKey } from '@/core/clean/organisation'
import { type Line, lineText, subjectOf } from '@/core/lists/line'
import { CHANNELS } from '@/core/records/channels'
import type { PersonRecord } from '@/core/records/person-record'
import type { Subject } from '@/core/records/subject'
import { isOfSet, type Rule } from '@/core/screening/rules'
import { screenRecord } from '@/core/screening/screen-record'
import { dearest } from '@/core/sources/enquiry'
import type { Found, SearchedName } from '@/core/sources/source'
import { asRecord, type Outcome, tried, type TriedView } from '@/core/sources/tried'
import { countText } from '@/core/text/written'
import { db, type Knex } from '@/db/connection'
import { suppressedBy } from '@/db/key'
import { latestEdition } from '@/db/lists/list-rows'
import { withRegister } from '@/db/screening/let-through'
import { newestEdition, policyOf } from '@/db/screening/policies'
import type { Enquiry } from '@/db/sources/enquiry-rows'
import { itemsToTry, leaveOutItems, suppressionsOfKeys } from '@/db/sources/tried-rows'
import { expanded, withLastRounds } from '@/usecases/lists/named-lists'
import { listFor } from '@/usecases/lists/open-list'
import { momentNow, withHolidays } from '@/usecases/screening/screening-now'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { beginIn } from './begin-enquiry'
import { enquiryFor } from './enquiries'

/** What records of a source can come onto: lists of these. */
export const TRIED_ON: Record<SearchedName, readonly Subject[]> = { directory: ['person', 'organisation'], premises: ['premises'] }

/** Runs what a search found and nothing was paid for through the lines of a list and its policy, as far as it can be told yet. Nothing is changed. */
export async function triedOnList(actor: Actor, enquiry: number, list: number): Promise<TriedView> {
  mustCoordinate(actor, 'Asking a source')
  return (await work(db(), actor, await enquiryFor(actor, enquiry, 'use'), list)).view
}

/**
 * Pays for those found that would be on a list, and for those of whom it cannot be told where asked; the others are left out, each with why.
 * Nothing is paid where they have become more than `most` since somebody looked.
 */
export async function buyForList(
  actor: Actor,
  enquiry: number,
  list: number,
  { open, most }: { open: boolean; most: number },
): Promise<void> {
  mustCoordinate(actor, 'Asking a source')
  await db().transaction(async (trx) => {
    const e = await enquiryFor(actor, enquiry, 'use', trx, true)
    if (e.state === 'running' || e.state === 'asking') throw new Refused('This enquiry is running already.')
    if (e.parts.some((part) => !part.through)) throw new Refused('The search is not complete. Continue it first. Nothing was bought.')
    if (e.prices === null) throw new Refused('The source has not given its prices yet. Nothing was bought.')
    if (e.batch_id !== null) throw new Refused('What this enquiry found is a batch already.')
    const { outcomes, view } = await work(trx, actor, e, list)
    const bought = outcomes.filter(({ outcome }) => outcome.is === 'on' || (open && outcome.is === 'open')).map(({ n }) => n)
    if (bought.length === 0) throw new Refused('None of the results would be on this list.')
    if (bought.length > most)
      throw new Refused(
        `The list or the results changed: ${countText(bought.length)} would be bought now, not ${countText(most)}. Nothing was bought. Check the figures again.`,
      )
    const kept = new Set(bought)
    await leaveOutItems(
      trx,
      e.id,
      bought,
      view.said.filter(([n]) => !kept.has(n)),
    )
    await beginIn(trx, e, e.cost + bought.length * dearest('find', e.prices))
  })
}

async function work(
  trx: Knex,
  actor: Actor,
  e: Enquiry,
  listId: number,
): Promise<{ view: TriedView; outcomes: { n: number; outcome: Outcome }[] }> {
  const list = await listFor(actor, listId, 'use', trx)
  if (e.asked.kind !== 'find' || !(e.source in TRIED_ON)) throw new Refused('Only the results of a search can be checked against a list.')
  const { lines } = await latestEdition(listId, trx)
  const subject = subjectOf(lines)
  if (!TRIED_ON[e.source as SearchedName].includes(subject)) throw new Refused('This source has no records of the kind this list holds.')
  const page = await expanded(lines, {}, trx)
  const moment = await withLastRounds(momentNow(list.zone), [page], trx)
  const all = (await itemsToTry(trx, e.id)).map(({ n, data }) => ({
    n,
    record: asRecord({ key: '', name: data.title, has: data.has, ...(data.found ?? UNTOLD) } satisfies Found, n, subject),
  }))
  const outcomes = all.map(({ n, record }) => ({ n, outcome: tried(record, page.lines, moment, subject) }))
  const text = (line: Line) => lineText(line, subject)
  const view: TriedView = {
    list: { id: list.id, name: list.name, policy: null },
    tried: all.length,
    on: outcomes.filter(({ outcome }) => outcome.is === 'on').length,
    lines: lines.flatMap((line, i) => {
      const by = (is: Outcome['is']) =>
        outcomes.filter(({ outcome }) => outcome.is === is && outcome.is !== 'on' && outcome.line === i).length
      const [out, open] = [by('out'), by('open')]
      return out + open === 0 ? [] : [{ number: i + 1, text: text(line), out, open }]
    }),
    clear: null,
    limits: lines.flatMap((line, i) => (line.verb === 'limit' && !line.off ? [i + 1] : [])),
    said: outcomes.map(({ n, outcome }) => [n, saidOf(outcome, list.name)]),
  }
  if (subject === 'person') {
    const policy = await policyOf(trx, list)
    const on = new Set(outcomes.filter(({ outcome }) => outcome.is === 'on').map(({ n }) => n))
    const rules = await withRegister((await newestEdition(trx, policy.id)).rules, trx)
    view.list.policy = policy.name
    view.clear = await clearOf(
      trx,
      all.filter(({ n }) => on.has(n)).map(({ record }) => record as PersonRecord),
      rules,
      list.zone,
    )
  }
  return { view, outcomes }
}

/** What was not kept of things found before it was asked about. */
const UNTOLD = { kind: '', subKind: '', district: '', postcode: '' }

const saidOf = (outcome: Outcome, list: string): string =>
  outcome.is === 'on'
    ? `would be on ${list}`
    : outcome.is === 'out'
      ? `left out by line ${outcome.line + 1} of ${list}`
      : `not known yet: line ${outcome.line + 1} of ${list}`

/** How many would be clear by each channel, going by the organisation and by what can be reached; numbers and addresses come with what is bought. */
async function clearOf(trx: Knex, people: PersonRecord[], rules: Rule[], zone: string): Promise<NonNullable<TriedView['clear']>> {
  const moment = withHolidays(momentNow(zone), rules)
  const keyOf = (person: PersonRecord) => suppressedBy({ organisationKey: organisationKey(person.employer?.name ?? '') })[0].key
  const held = await suppressionsOfKeys(trx, people.map(keyOf), new Date(moment.asOf))
  const alone = rules.filter((rule) => !isOfSet(rule))
  const verdicts = people.map((person) => {
    const key = keyOf(person).toString('hex')
    const suppressions = held
      .filter((own) => own.key === key)
      .map(({ id, reason, channels, since, until }) => ({ id, reason, channels, since: since.getTime(), until: until?.getTime() ?? null }))
    return screenRecord({ ...person, suppressions }, alone, moment)
  })
  return Object.fromEntries(CHANNELS.map((channel) => [channel, verdicts.filter((verdict) => verdict.channels[channel].open).length]))
}
