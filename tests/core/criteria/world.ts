import fc from 'fast-check'
import { FIELD } from '@/core/clean/standard-fields'
import { Directory } from '@/core/columns/directory'
import type { OrganisationRecord } from '@/core/records/organisation-record'
import type { PersonRecord } from '@/core/records/person-record'
import type { PremisesRecord } from '@/core/records/premises-record'
import type { Subject } from '@/core/records/subject'
import type { Moment } from '@/core/criteria/kind'
import { MOMENT, organisation, person, premises } from '../../support/people'
import { AREAS } from '../../support/areas'
import { criterionOf } from '../../support/lines'
import { expect, test } from 'vitest'
import { Answers, verdict } from '@/core/criteria/registry'

export interface World {
  people: PersonRecord[]
  organisations: OrganisationRecord[]
  premises: PremisesRecord[]
}

/** People, organisations and premises that point at each other, some of them at what is not there. */
export const world: fc.Arbitrary<World> = fc
  .tuple(fc.array(person, { maxLength: 25 }), fc.array(organisation, { maxLength: 14 }), fc.array(premises, { maxLength: 14 }))
  .map(([people, organisations, places]) => {
    const at = places.map((p, i) => ({ ...p, id: i + 1 }))
    for (const p of at) p.holdings = at.filter((o) => o.ownerKey === p.ownerKey).map((o) => o.custom[FIELD.transferDate] ?? null)
    const found = <R extends { id: number }>(records: R[], id: number | null) => records.find((r) => r.id === id) ?? null
    const of = organisations.map((o, i) => ({
      ...o,
      id: i + 1,
      at: found(at, o.premises),
      people: people.filter((p) => p.organisation === i + 1).length,
    }))
    return {
      premises: at,
      organisations: of,
      people: people.map((p, i) => ({ ...p, id: i + 1, employer: found(of, p.organisation), at: found(at, p.premises) })),
    }
  })

export function columnsOf({ people, organisations, premises: places }: World): Directory {
  const made = new Directory()
  for (const p of people) made.people.put(p)
  for (const o of organisations) made.organisations.put(o)
  for (const p of places) made.premises.put(p)
  return made
}

export const recordsOf = (w: World, subject: Subject) =>
  subject === 'person' ? w.people : subject === 'organisation' ? w.organisations : w.premises

/** List 50: ids divisible by three, whatever they are of. */
export function momentOf(columns: Directory, subject: Subject): Moment {
  const of = columns.of(subject)
  const member = { has: (id: number) => id % 3 === 0, set: of.numbers(Array.from({ length: 30 }, (_, i) => i * 3)) }
  return {
    ...MOMENT,
    lastRounds: { 7: 2 },
    releasedAt: { 7: MOMENT.asOf - 40 * 86_400_000 },
    areas: new Map(AREAS.map((shape, i) => [i + 1, shape])),
    members: new Map([['list:50:latest', member]]),
  }
}

for (const subject of ['organisation', 'premises'] as const) {
  test(`of ${subject} the verdict on one record and the evaluation over columns agree, for every criterion they can be asked`, () => {
    fc.assert(
      fc.property(world, criterionOf(subject), (w, c) => {
        const columns = columnsOf(w)
        const moment = momentOf(columns, subject)
        const { yes, unknown } = new Answers(columns).of(c, moment, subject)
        for (const record of recordsOf(w, subject)) {
          const n = columns.of(subject).numberFor(record.id) as number
          expect(yes.has(n) ? 'yes' : unknown.has(n) ? 'unknown' : 'no').toBe(verdict(c, record, moment, subject))
        }
      }),
      { numRuns: 500 },
    )
  })
}
