import { describe, expect, test } from 'vitest'
import { Directory } from '@/core/columns/directory'
import type { OrganisationRecord } from '@/core/records/organisation-record'
import type { PersonRecord } from '@/core/records/person-record'
import type { PremisesRecord } from '@/core/records/premises-record'
import type { Moment } from '@/core/criteria/kind'
import { Answers, CRITERIA, type Criterion, type CriterionName, validCriterion, verdict } from '@/core/criteria/registry'
import { lineText } from '@/core/lists/line'
import { blank, blankOrganisation as noOrganisation, blankPremises as noPremises, MOMENT } from '../../support/people'
import { type Told, type Example, SQUARE, type Examples } from './example'
import { FIRST } from './examples-one'
import { SECOND } from './examples-two'

/**
 * Examples of every kind of criterion; a kind that has none does not compile. Today is 15 June 2026. Expected answers are read off
 * what each kind says it asks (docs/lists.md), with both ends of every range.
 */
const EXAMPLES: Examples = { ...FIRST, ...SECOND }

/** The columns of one record, and what the moment has at hand beside them. */
function columnsOf(of: keyof Told, told: object, under?: OrganisationRecord | PremisesRecord) {
  const directory = new Directory()
  if (of === 'organisation') directory.organisations.put({ ...noOrganisation, ...told })
  else if (of === 'premises') directory.premises.put({ ...noPremises, id: 1, ...told })
  else directory.people.put({ ...blank, premises: under ? 1 : null, ...told } as PersonRecord)
  if (of === 'person' && under) directory.premises.put(under as PremisesRecord)
  return directory
}

function momentFor(directory: Directory, record: PersonRecord): Moment {
  const members = new Map([
    ['list:50:latest', { has: (id: number) => id % 3 === 0, set: directory.people.numbers([3, 6, 9].filter((id) => id === record.id)) }],
  ])
  for (const number of [1, 2]) {
    const seats = record.rounds.filter((seat) => seat.number === number)
    const numbers = directory.people.numbers(seats.map(() => record.id))
    directory.people.putRound(7, number, {
      listed: numbers,
      clear: directory.people.numbers(seats.filter((s) => s.clear).map(() => record.id)),
    })
  }
  return { ...MOMENT, lastRounds: { 7: 2 }, releasedAt: { 7: MOMENT.asOf - 30 * 86_400_000 }, areas: new Map([[1, SQUARE]]), members }
}

describe.each(Object.entries(EXAMPLES))('%s', (kind, example: Example<CriterionName>) => {
  const criterion = validCriterion({ kind, ...example.ask }) as Criterion
  const of = CRITERIA[kind as CriterionName].of
  const subject = of === 'any' ? 'person' : of

  test('its line reads as it is meant', () => {
    expect(lineText({ id: 'x', verb: 'keep', off: false, unknownAsYes: false, criterion })).toBe(example.line)
  })

  test('what is read from the page comes back as the same criterion', () => {
    expect(validCriterion(JSON.parse(JSON.stringify(criterion)))).toEqual(criterion)
  })

  const cases = (['yes', 'no', 'unknown'] as const).flatMap((answer) =>
    (example[answer] ?? []).map((told): [string, string, object] => [answer, JSON.stringify(told), told]),
  )
  test.runIf(cases.length > 0).each(cases)('%s: %s', (answer, _, told) => {
    const empty = subject === 'organisation' ? noOrganisation : subject === 'premises' ? noPremises : blank
    const record = { ...empty, ...told } as PersonRecord
    const directory = columnsOf(subject, told, record.at ?? undefined)
    if (subject === 'organisation' && (told as { people?: number }).people)
      directory.people.put({ ...blank, id: 1, organisation: record.id })
    if (subject === 'premises' && record.custom)
      for (let i = 1; i < ((told as { holdings?: unknown[] }).holdings?.length ?? 0); i++)
        directory.premises.put({ ...noPremises, ...told, id: 1 + i } as PremisesRecord)
    const moment = momentFor(directory, { ...blank, ...record, rounds: record.rounds ?? [] })
    expect(verdict(criterion, record, moment, subject), 'one record alone').toBe(answer)
    const columns = directory.of(subject)
    const n = columns.numberFor(record.id) as number
    const { yes, unknown } = new Answers(directory).of(criterion, moment, subject)
    expect(yes.has(n) ? 'yes' : unknown.has(n) ? 'unknown' : 'no', 'over columns').toBe(answer)
  })
})
