import { lineText } from '@/core/lists/line'
import { ruleNamed } from '@/core/screening/rules'
import type { Of, Standing } from '@/core/sources/enquiry'
import { db } from '@/db/connection'
import { type Actor, Refused } from '@/usecases/team/actor'
import { batchFor } from '@/usecases/intake/batch-for'
import { answerFor } from '@/usecases/lists/list-account'
import { listFor } from '@/usecases/lists/open-list'
import { basisOf } from '@/usecases/rounds/round-basis'
import { calledOf, roundFor } from '@/usecases/rounds/rounds'
import { askScreening } from '@/usecases/rounds/screen-round'
import { latestEdition } from '@/db/lists/list-rows'
import { peopleOfBatch } from '@/db/intake/batch-rows'

/** More people than any directory holds. */
const ALL = 100_000_000

/** What is asked about, by the name it really has, and the list it belongs to. Throws Refused where this person may not use it. */
export async function askedAbout(actor: Actor, of: Of): Promise<{ of: Of; list: number | null }> {
  if ('list' in of) {
    const { id, name } = await listFor(actor, of.list, 'use')
    return { of: { list: id, name, ...(of.line === undefined ? {} : { line: of.line }) }, list: id }
  }
  if ('round' in of) {
    const { round, list } = await roundFor(actor, of.round)
    const { name } = await listFor(actor, list.id, 'use')
    return { of: { round: of.round, rule: of.rule, name: `${name}, round ${calledOf(round)}` }, list: list.id }
  }
  const { id, file_name: name, list_id: list } = await batchFor(actor, 'batch' in of ? of.batch : of.file)
  return { of: 'batch' in of ? { batch: id, name } : { file: id, name }, list }
}

/**
 * Whom a line of a list does not know what to make of, as its latest edition has it, or whose email a rule of a round that is being built
 * closes: at most `limit` of them, how many there are, and how many are on the list or clear by email. Throws Refused where there is no such
 * line or rule any more.
 */
export async function setAside(actor: Actor, of: Of, limit: number): Promise<Standing & { people: number[]; text: string; short: string }> {
  if ('round' in of) {
    const { round, list } = await roundFor(actor, of.round)
    const basis = await basisOf(db(), of.round, list.id)
    const rule = basis.rules.find((own) => own.id === of.rule)
    if (round.released_at || !rule) throw new Refused('The round does not go by this rule any more.')
    const view = { tab: 'rule', rule: rule.id, channel: 'email' } as const
    const { answer } = await askScreening(list, basis, view, { offset: 0, limit })
    return {
      aside: answer.total,
      on: answer.figures.clear.email,
      people: answer.ids,
      text: ruleNamed(basis.rules, rule.id),
      short: ruleNamed(basis.rules, rule.id),
    }
  }
  const line = 'list' in of ? of.line : undefined
  if (!('list' in of) || line === undefined) throw new Refused('The request does not say which people it is about. Nothing was changed.')
  const { id } = await listFor(actor, of.list, 'use')
  const { lines } = await latestEdition(id)
  const at = lines.findIndex((own) => own.id === line)
  if (at < 0) throw new Refused('The list has no such line, as it was last saved. Save it, then try again.')
  const column = lines[at].verb === 'drop' ? 'stayedUnknown' : 'unknown'
  const { answer } = await answerFor(actor, { lines, view: { tab: 'moved', line, column } }, limit)
  return {
    aside: answer.total,
    on: answer.figures.totals.balance,
    people: answer.ids,
    text: `line ${at + 1}: ${lineText(lines[at])}`,
    short: `line ${at + 1}`,
  }
}

/** Everybody meant, and what is kept of whom that is: of a line or rule also what it set aside. */
export async function peopleOf(actor: Actor, of: Of): Promise<{ people: number[]; of: Of }> {
  if ('round' in of || ('list' in of && of.line !== undefined)) {
    const { people, aside, on, short } = await setAside(actor, of, ALL)
    return { people, of: { ...of, name: `${of.name}, ${short}`, then: { aside, on } } }
  }
  if ('list' in of) {
    const { id } = await listFor(actor, of.list, 'use')
    const { lines } = await latestEdition(id)
    return { people: (await answerFor(actor, { lines, view: { tab: 'on' } }, ALL)).answer.ids, of }
  }
  if (!('batch' in of)) throw new Refused('This file is not imported yet, so it has no people. Import it first.')
  return { people: (await peopleOfBatch(db(), of.batch)).map((row) => row.id), of }
}
