import type { PeopleColumns } from '../columns/people-columns'
import type { PersonRecord } from '../columns/person-record'
import { type ContactedCriterion, contacted } from './contacted'
import type { Answer, AskedField, CriterionKind, Moment, Phrase, Verdict } from './kind'
import { localDate } from '../calendar/local-day'
import { type PlaceCriterion, place } from './place'
import { type ReachCriterion, reach } from './reach'
import { type RelationCriterion, relation } from './relation'
import { type RoleCriterion, role } from './role'

export type Criterion = RoleCriterion | PlaceCriterion | ReachCriterion | ContactedCriterion | RelationCriterion

/** Every kind of criterion there is: one row a kind. */
export const CRITERIA = { role, place, reach, contacted, relation } as const

export type CriterionName = keyof typeof CRITERIA

function kindOf(criterion: Criterion): CriterionKind<Criterion> {
  return CRITERIA[criterion.kind] as unknown as CriterionKind<Criterion>
}

/** Checks a criterion that came from outside. Throws yup's ValidationError naming what is wrong. */
export function validCriterion(value: unknown): Criterion {
  const kind = (value as { kind?: string } | null)?.kind
  if (!kind || !Object.hasOwn(CRITERIA, kind)) throw new TypeError(`no such kind of criterion: ${String(kind)}`)
  return CRITERIA[kind as CriterionName].schema.validateSync(value, { strict: true }) as Criterion
}

export const sentence = (criterion: Criterion): Phrase[] => kindOf(criterion).sentence(criterion)
export const asks = (criterion: Criterion): AskedField[] => kindOf(criterion).asks(criterion)

export const verdict = (criterion: Criterion, record: PersonRecord, moment: Moment): Verdict =>
  kindOf(criterion).verdict(criterion, record, moment)

/**
 * Answers criteria over one set of columns and keeps what it answered, until the columns change. An answer that
 * depends on the day is kept for that local day only.
 */
export class Answers {
  private kept = new Map<string, Answer>()
  private version = -1

  constructor(private readonly columns: PeopleColumns) {}

  of(criterion: Criterion, moment: Moment): Answer {
    if (this.version !== this.columns.version || this.kept.size > 2000) {
      this.kept.clear()
      this.version = this.columns.version
    }
    const kind = kindOf(criterion)
    const day = kind.timed(criterion) ? localDate(moment.asOf, moment.zone) : ''
    const key = `${JSON.stringify(criterion)}|${moment.zone}|${day}`
    let answer = this.kept.get(key)
    if (!answer) this.kept.set(key, (answer = kind.evaluate(criterion, this.columns, moment)))
    return answer
  }
}
