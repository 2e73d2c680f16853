import { boolean, number, object, string } from 'yup'
import { isDay, localDate } from '@/core/calendar/local-day'
import { trimmed } from '@/core/clean/name'
import { SUBJECTS } from '@/core/records/subject'
import { fieldsOfPeople } from '@/db/changes/feed-rows'
import { kindStands, recordStands } from '@/db/changes/report-rows'
import { db, type Knex } from '@/db/connection'
import { now } from '@/runtime/clock'
import { settings } from '@/runtime/settings'
import { type Actor, mayCoordinate, Refused } from '@/usecases/team/actor'
import { nameSuccessor } from './name-successor'
import { type Report, writeReports } from './report-change'

/** What somebody can be reported to have done beside what happened to them. */
export const MOVES = ['left', 'role', 'organisation'] as const
export type MoveOf = (typeof MOVES)[number]

const text = (most: number, told: string) => string().transform(trimmed).max(most, told).nullable().default(null)

const schema = object({
  of: string().oneOf(SUBJECTS).required(),
  record: number().integer().positive().required(),
  /** What happened, by its kind; or what somebody did. */
  kind: number().integer().positive().nullable().default(null),
  moved: string().oneOf(MOVES).nullable().default(null),
  /** The new role or organisation. */
  after: text(200, 'A role or an organisation has at most 200 characters.'),
  successor: text(200, 'A name has at most 200 characters.'),
  text: text(1000, 'Say it in 1,000 characters at most.'),
  link: text(1000, 'A link has at most 1,000 characters.').test(
    'link',
    'A link begins with https:// or http://.',
    (link) => !link || (/^https?:\/\//.test(link) && URL.canParse(link)),
  ),
  day: string()
    .test('day', 'Give the day.', (day) => day !== undefined && isDay(day))
    .required('Give the day.'),
  stated: boolean().default(true),
}).test('one', 'Choose what happened.', (given) => (given.kind === null) !== (given.moved === null))

/**
 * Reports by hand that something happened to a record, or that somebody left, moved or has another role; a successor becomes a row in
 * doubt. Nothing of the record changes until somebody confirms it. Throws Refused or a ValidationError that says what is missing.
 */
export async function reportByHand(actor: Actor, input: unknown): Promise<void> {
  const given = schema.validateSync(input, { abortEarly: false })
  const { of, record, moved, after, successor, day } = given
  if (day > localDate(now().getTime(), settings().ARCH_ZONE)) throw new Refused('The day is still to come. Nothing was recorded.')
  if (moved !== null && of !== 'person') throw new Refused('Only people have roles and employers.')
  if ((moved === 'role' || moved === 'organisation') && !after)
    throw new Refused(moved === 'role' ? 'Say what the new role is.' : 'Say which organisation they are with now.')
  if (successor && moved !== 'left') throw new Refused('Only somebody who left has a successor.')
  if (successor && !mayCoordinate(actor))
    throw new Refused('Adding a successor is for coordinators and managers. Report the rest, and tell one.')
  await db().transaction(async (trx) => {
    if (!(await recordStands(trx, of, record))) throw new Refused('There is no such record in the directory.', 'not found')
    if (given.kind !== null && !(await kindStands(trx, given.kind)))
      throw new Refused('This kind of change does not exist any more.', 'not found')
    await writeReports(trx, actor.id, [await reportOf(trx, actor, given)])
    if (successor) await nameSuccessor(trx, actor, record, successor)
  })
}

async function reportOf(trx: Knex, actor: Actor, given: ReturnType<typeof schema.validateSync>): Promise<Report> {
  const { of, record, kind, moved, after, text, link, day, stated } = given
  const field = moved === null ? null : moved === 'role' ? ('role' as const) : ('organisation' as const)
  const before = field === null ? null : ((await fieldsOfPeople(trx, [record])).get(record)?.[field] ?? null)
  if (moved === 'left' && before === null) throw new Refused('No organisation is known of them, so they cannot have left one.')
  return {
    of,
    record,
    kind: moved === null ? kind : null,
    field,
    before,
    after: moved === 'left' ? null : field === null ? null : after,
    text: text || null,
    link: link || null,
    day,
    stated,
    source: `told by ${actor.name}`,
    outsideId: null,
  }
}
