import type { PeopleColumns } from '../columns/people-columns'
import type { PersonRecord } from '../columns/person-record'
import { type BatchCriterion, batch } from './batch'
import { type ContactedCriterion, contacted } from './contacted'
import { type CountyCriterion, county } from './county'
import { type HeadCountCriterion, headCount } from './head-count'
import { type IndustryCriterion, industry } from './industry'
import { type CustomCriterion, custom } from './custom'
import type { Answer, AskedField, CriterionKind, Moment, Phrase, Verdict } from './kind'
import { type LevelCriterion, level } from './level'
import { type ListCriterion, list } from './list'
import { type PlaceCriterion, place } from './place'
import { type ReachCriterion, reach } from './reach'
import { type RelationCriterion, relation } from './relation'
import { type RoleCriterion, role } from './role'
import { type FunctionCriterion, roleFunction } from './role-function'
import { type RoundCriterion, round } from './round'
import { type TagCriterion, tag } from './tag'

export type Criterion =
  | RoleCriterion
  | LevelCriterion
  | FunctionCriterion
  | IndustryCriterion
  | HeadCountCriterion
  | PlaceCriterion
  | CountyCriterion
  | ReachCriterion
  | ContactedCriterion
  | RelationCriterion
  | TagCriterion
  | CustomCriterion
  | BatchCriterion
  | RoundCriterion
  | ListCriterion

/** Every kind of criterion there is: one row a kind. */
export const CRITERIA = { role, level, function: roleFunction, industry, 'head-count': headCount, place, county, reach, contacted, relation, tag, custom, batch, round, list } as const

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
/** What leads from *everyone* to the sentence of a criterion. */
export const who = (criterion: Criterion): string => (kindOf(criterion).whose ? 'everyone whose' : 'everyone who')
export const asks = (criterion: Criterion): AskedField[] => kindOf(criterion).asks(criterion)

export const verdict = (criterion: Criterion, record: PersonRecord, moment: Moment): Verdict =>
  kindOf(criterion).verdict(criterion, record, moment)

/** What kept answers may take up, in bytes: two bits a record each. */
const MOST_KEPT = 64_000_000

/**
 * Answers criteria over one set of columns and keeps what it answered, until the columns change. An answer that
 * depends on the day is kept for that local day only.
 */
export class Answers {
  private kept = new Map<string, Answer>()
  private version = -1

  constructor(private readonly columns: PeopleColumns) {}

  of(criterion: Criterion, moment: Moment): Answer {
    if (this.version !== this.columns.version) {
      this.kept.clear()
      this.version = this.columns.version
    }
    const kind = kindOf(criterion)
    const varies = kind.varies(criterion, moment)
    if (varies === null) return kind.evaluate(criterion, this.columns, moment)
    const key = `${JSON.stringify(criterion)}|${moment.zone}|${varies}`
    let answer = this.kept.get(key)
    if (!answer) {
      answer = kind.evaluate(criterion, this.columns, moment)
      if (this.kept.size >= Math.max(64, (MOST_KEPT * 4) / (this.columns.size + 1))) this.kept.delete(this.kept.keys().next().value as string)
      this.kept.set(key, answer)
    }
    return answer
  }
}
