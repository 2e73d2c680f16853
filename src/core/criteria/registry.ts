import { LRUCache } from 'lru-cache'
import type { Directory } from '../columns/directory'
import type { PersonRecord } from '../records/person-record'
import type { Subject } from '../records/subject'
import type { SubjectRecord } from '../records/subject-record'
import { anyList } from './any-list'
import { area } from './area'
import { batch } from './batch'
import { changedOrganisation, changedPremises, changedSelf } from './changed'
import { contactCount } from './contact-count'
import { contacted } from './contacted'
import { county } from './county'
import { custom } from './custom'
import { equity } from './equity'
import { headCount } from './head-count'
import { holdings } from './holdings'
import { industry } from './industry'
import { industryByCode } from './industry-code'
import { interest } from './interest'
import type { About, CallNamed, Named, Answer, AskedField, CriterionKind, Form, Moment, Phrase, Verdict } from './kind'
import { level } from './level'
import { lifted } from './lifted'
import { list } from './list'
import { near } from './near'
import * as organisation from './organisation-facts'
import * as person from './person-facts'
import { place } from './place'
import * as premises from './premises-facts'
import { reach } from './reach'
import { reachable } from './reachable'
import { related } from './related'
import { relation } from './relation'
import { role } from './role'
import { roleFunction } from './role-function'
import { round } from './round'
import { street } from './street'
import { tag } from './tag'
import { territory } from './territory'
import { joinedAnswer, joinedVerdict, together } from './together'

/** Every kind that asks one question: one row a kind, in the order in which they are offered. */
const SINGLE = {
  role,
  level,
  function: roleFunction,
  'in-role': person.inRole,
  joined: person.joined,
  earlier: person.earlier,
  about: person.about,
  languages: person.languages,
  part: person.part,
  acquaintance: person.acquaintance,
  relation,
  tag,
  holder: person.holder,
  custom,
  industry,
  'industry-code': industryByCode,
  'org-name': organisation.orgName,
  'org-domain': organisation.orgDomain,
  'org-description': organisation.orgDescription,
  'legal-kind': organisation.legalKind,
  'head-count': headCount,
  counted: organisation.counted,
  growth: organisation.growth,
  revenue: organisation.revenue,
  founded: organisation.founded,
  seat: organisation.seat,
  'our-people': organisation.ourPeople,
  'org-changed': changedOrganisation,
  place,
  territory,
  county,
  district: person.district,
  region: person.region,
  country: person.country,
  street,
  area,
  near,
  'premises-kind': premises.premisesKind,
  'roof-area': premises.roofArea,
  'floor-area': premises.floorArea,
  'year-built': premises.yearBuilt,
  bedrooms: premises.bedrooms,
  'owner-kind': premises.ownerKind,
  'owner-lives': premises.ownerLives,
  holdings,
  held: premises.held,
  price: premises.price,
  'without-loan': premises.withoutLoan,
  value: premises.value,
  loan: premises.loan,
  equity,
  listed: premises.listed,
  likely: premises.likely,
  'premises-changed': changedPremises,
  reach,
  reachable,
  contacted,
  'contact-count': contactCount,
  interest,
  changed: changedSelf,
  round,
  list,
  'any-list': anyList,
  related,
  batch,
} as const

/** A criterion that asks one question. */
export type Question = { [K in keyof typeof SINGLE]: (typeof SINGLE)[K]['blank'] }[keyof typeof SINGLE]

const kindOfQuestion = (question: Question): CriterionKind<Question, About> =>
  SINGLE[question.kind] as unknown as CriterionKind<Question, About>

/** Every kind of criterion there is. */
export const CRITERIA = {
  ...SINGLE,
  together: together<Question>({
    valid: validQuestion,
    sentence: (question) => kindOfQuestion(question).sentence(question),
    asks: (question) => kindOfQuestion(question).asks(question),
    named: (question, call) => kindOfQuestion(question).named(question, call),
  }),
} as const

export type CriterionName = keyof typeof CRITERIA
export type Criterion = { [K in CriterionName]: (typeof CRITERIA)[K]['blank'] }[CriterionName]
export type CriterionOf<K extends CriterionName> = (typeof CRITERIA)[K]['blank']

type AnyKind = CriterionKind<Criterion, About>

function kindOf(criterion: Criterion): AnyKind {
  return CRITERIA[criterion.kind] as unknown as AnyKind
}

/** The questions that a criterion asks: several where it joins them, else itself. */
export const questionsOf = (criterion: Criterion): Question[] => (criterion.kind === 'together' ? criterion.parts : [criterion])

/** A criterion with each of its questions replaced by what `change` makes of it. */
export const withQuestions = (criterion: Criterion, change: (question: Question) => Criterion): Criterion =>
  criterion.kind === 'together' ? { ...criterion, parts: criterion.parts.map((part) => change(part) as Question) } : change(criterion)

/** Checks one question that came from outside; several at once are none. */
function validQuestion(value: unknown): Question {
  const kind = (value as { kind?: string } | null)?.kind
  if (!kind || !Object.hasOwn(SINGLE, kind)) throw new TypeError(`no such kind of criterion: ${String(kind)}`)
  return SINGLE[kind as keyof typeof SINGLE].schema.validateSync(value, { strict: true }) as Question
}

/** Checks a criterion that came from outside. Throws yup's ValidationError naming what is wrong. */
export function validCriterion(value: unknown): Criterion {
  const kind = (value as { kind?: string } | null)?.kind
  if (!kind || !Object.hasOwn(CRITERIA, kind)) throw new TypeError(`no such kind of criterion: ${String(kind)}`)
  return CRITERIA[kind as CriterionName].schema.validateSync(value, { strict: true }) as Criterion
}

/** Returns the sentence of a criterion, as the line shows it. */
export const sentence = (criterion: Criterion): Phrase[] => kindOf(criterion).sentence(criterion)
/** Returns the fields that a criterion asks about. */
export const asks = (criterion: Criterion): AskedField[] => kindOf(criterion).asks(criterion)
/** Returns the form of a criterion; undefined where it has one of its own. */
export const formOf = (criterion: Criterion): Form | undefined => kindOf(criterion).form
/** Returns the name under which a criterion is found. */
export const nameOf = (criterion: Criterion): string => kindOf(criterion).name
/** Whether the sentence begins with something of theirs: everyone *whose* role says, not everyone *who*. */
export const isWhose = (criterion: Criterion): boolean => {
  const first = kindOf(questionsOf(criterion)[0] ?? criterion)
  return first.whose === true || first.of === 'premises'
}

/** Which records a criterion's own subject belongs to records of another: what a list of that subject asks it of. */
const REACHES: Record<Subject, readonly About[]> = {
  person: ['any', 'person', 'organisation', 'premises'],
  organisation: ['any', 'organisation', 'premises'],
  premises: ['any', 'premises'],
}

/** Whether a list of a subject can ask a kind of criterion. */
export const fits = (kind: CriterionName, subject: Subject): boolean => REACHES[subject].includes(CRITERIA[kind].of)

/** All the questions by which it can be told, before a line is added, of how many a list of a subject does not know the answer. */
export const probesFor = (subject: Subject): Criterion[] =>
  (Object.keys(CRITERIA) as CriterionName[]).filter((kind) => fits(kind, subject)).flatMap((kind) => CRITERIA[kind].probe ?? [])

/** The lists, areas and batches that a criterion names. */
export function thingsNamed(criterion: Criterion): (Named & { id: number; name: string })[] {
  const found: (Named & { id: number; name: string })[] = []
  renamed(criterion, (thing, named) => {
    found.push({ ...named, id: thing.id, name: thing.name })
    return thing
  })
  return found
}

/** A criterion with all it names handed to `call`, and replaced by what that gives. */
export const renamed = (criterion: Criterion, call: CallNamed): Criterion => kindOf(criterion).named(criterion, call)

/** The reference: what is true of one record of a subject. A record without what is asked about is unknown. */
export function verdict(criterion: Criterion, record: SubjectRecord, moment: Moment, subject: Subject = 'person'): Verdict {
  if (criterion.kind === 'together')
    return joinedVerdict(
      criterion.every,
      criterion.parts.map((part) => verdict(part, record, moment, subject)),
    )
  const kind = kindOf(criterion)
  if (kind.of === 'any' || kind.of === subject) return kind.verdict(criterion, record as never, moment)
  const owner = kind.of === 'organisation' ? (record as PersonRecord).employer : (record as PersonRecord).at
  return owner ? kind.verdict(criterion, owner as never, moment) : 'unknown'
}

/** What kept answers may take up, in bytes: two bits a record each. */
const MOST_KEPT = 64_000_000

/**
 * Answers criteria over the directory and keeps what it answered, until the columns change. An answer that depends on
 * the day is kept for that local day only. Of several questions at once each is kept by itself.
 */
export class Answers {
  private kept: LRUCache<string, Answer>
  private version = -1

  constructor(private readonly directory: Directory) {
    this.kept = new LRUCache({ maxSize: MOST_KEPT, sizeCalculation: () => 1 + Math.ceil(directory.people.size / 4) })
  }

  of(criterion: Criterion, moment: Moment, subject: Subject = 'person'): Answer {
    const { directory } = this
    if (this.version !== directory.version) {
      this.kept.clear()
      this.version = directory.version
    }
    if (criterion.kind === 'together')
      return joinedAnswer(
        criterion.every,
        criterion.parts.map((part) => this.of(part, moment, subject)),
      )
    const kind = kindOf(criterion)
    const own = kind.of === 'any' ? subject : kind.of
    const varies = kind.varies(criterion, moment)
    if (varies === null) return kind.evaluate(criterion, directory.of(own) as never, moment)
    const key = `${subject}|${JSON.stringify(criterion)}|${moment.zone}|${varies}`
    let answer = this.kept.get(key)
    if (!answer) {
      answer =
        own === subject
          ? kind.evaluate(criterion, directory.of(own) as never, moment)
          : lifted(directory, subject, own, this.of(criterion, moment, own))
      this.kept.set(key, answer)
    }
    return answer
  }
}
