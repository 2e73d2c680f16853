import type { FieldWords } from '@/core/text/field-words'
import { customIdOf } from '@/core/clean/custom'
import type { PersonRecord } from '@/core/records/person-record'
import type { AskedField } from '@/core/criteria/kind'
import { asks, type Criterion } from '@/core/criteria/registry'
import type { RequalifyPage, RequalifyView } from '@/core/views/round-views'
import { tagsMoved } from '@/core/views/tags-moved'
import type { Cause } from '@/core/rounds/requalify'
import type { ScreeningMoment } from '@/core/screening/kind'
import type { Rule } from '@/core/screening/rules'
import { screenRecord } from '@/core/screening/screen-record'
import { db } from '@/db/connection'
import { organisationRecords } from '@/db/directory/organisation-and-premises-rows'
import { askEngine } from '@/engine/client'
import { type Actor, Refused } from '@/usecases/team/actor'
import { evidenceTexts } from '@/usecases/screening/evidence'
import { PAGE } from '@/usecases/lists/list-account'
import { listFor } from '@/usecases/lists/open-list'
import { expanded, withLastRounds } from '@/usecases/lists/named-lists'
import { fieldWords } from '@/usecases/directory/custom-fields'
import { withAround } from '@/usecases/screening/with-around'
import { peoplePage } from '@/usecases/directory/people-page'
import { momentNow, withHolidays } from '@/usecases/screening/screening-now'
import { dateText, dayText } from '@/core/text/written'
import { newestEdition, policyOf } from '@/db/screening/policies'
import { latestEdition, type ListRow } from '@/db/lists/list-rows'
import { lastRounds, type RoundRow, withSupplements } from '@/db/rounds/round-rows'
import { withRegister } from '@/db/screening/let-through'
import { cameAndWent } from '@/db/directory/person-rows'
import { changesSince } from '@/db/directory/ledger-rows'
import { numberById } from '@/db/lists/editions'
import { CHANNEL_NAME } from '@/core/records/channels'
import { causeText, lineOf, thenOf, type Words } from './requalify'

/** The rules a list goes by today: those of the round that is being built, or the newest edition of its policy. */
async function rulesToday(list: ListRow, newest: RoundRow | null): Promise<Rule[]> {
  if (newest && !newest.released_at) return newest.rules
  return (await newestEdition(db(), (await policyOf(db(), list)).id)).rules
}

/** A list against its last round, with a page of those who left, joined or stayed and why. */
export async function requalifyList(
  actor: Actor,
  listId: number,
  view: RequalifyView,
  offset = 0,
  signal?: AbortSignal,
): Promise<RequalifyPage> {
  const list = await listFor(actor, listId)
  if (list.subject !== 'person')
    throw new Refused(
      'A round of this list sends letters to premises. Its own page tells who joined and left since the round before.',
      'not found',
    )
  const { released, newest } = await lastRounds(listId)
  if (!released?.released_at) throw new Refused('This list has no earlier round to compare with.', 'not found')
  const edition = await latestEdition(listId)
  const { number: earlier } = await numberById(db(), released.edition_id)
  const parts = await withSupplements(db(), released)
  const [then, today] = [await thenOf(parts), await expanded(edition.lines)]
  const pages = then.map(({ page }) => page)
  const rules = await withRegister(await rulesToday(list, newest))
  const moment = withHolidays(
    await withLastRounds(
      momentNow(
        list.zone,
        parts.map(({ id }) => id),
      ),
      [...pages, today],
    ),
    rules,
  )
  const answer = await askEngine(
    'requalify',
    { screen: `${actor.id}:requalify-${listId}`, then, now: today, rules, moment, view, page: { offset, limit: PAGE } },
    signal,
  )
  const words = {
    linesThen: pages.map(({ lines }) => lines),
    linesNow: edition.lines,
    rules,
    rulesThen: parts.flatMap((part) => part.rules),
  }
  const causes = {
    listed: answer.listed.rows.map((row) => causeText(row.cause, row.side, words)),
    clear: answer.clear.rows.map((row) => causeText(row.cause, row.side, words)),
  }
  const people = await peoplePage(answer.ids)
  await withAround(
    db(),
    people.map(({ record }) => record),
    rules,
    moment,
  )
  const rows = answer[view.account].rows
  const rowOf = new Map(answer.ids.map((id, i) => [id, rows[answer.rows[i]] ?? null]))
  const details = await detailsOf(
    people.map(({ record }) => ({ record, cause: rowOf.get(record.id)?.cause ?? null, side: rowOf.get(record.id)?.side ?? 'left' })),
    words,
    released,
    moment,
  )
  return {
    list: list.name,
    round: {
      id: released.id,
      number: released.number,
      releasedAt: released.released_at.toISOString(),
      open: released.closed_at === null,
      supplements: parts.length - 1,
    },
    editions: { earlier, today: edition.number },
    listed: answer.listed,
    clear: answer.clear,
    causes,
    page: {
      total: answer.total,
      behind: answer.behind === null ? null : new Date(answer.behind).toISOString(),
      people: people.map(({ view: person }, i) => {
        const row = rowOf.get(person.id)
        if (!row) return person
        // What moved them is what is looked for; the line is the same for many of them.
        const said = [details[i], causeText(row.cause, row.side, words)]
        const [title, detail] = 'line' in row.cause ? said : said.reverse()
        return { ...person, because: { title, detail } }
      }),
    },
  }
}

export type Asked = { record: PersonRecord; cause: Cause | null; side: 'left' | 'joined' }

/** For each person the value before and after that moved them, from the ledger since the round. */
export async function detailsOf(asked: Asked[], words: Words, round: RoundRow, moment: ScreeningMoment): Promise<string[]> {
  const since = round.as_of as Date
  const ids = asked.map((a) => a.record.id)
  const changes = await changesSince(
    db(),
    asked.map((a) => a.record.organisation).filter((id) => id !== null),
    ids,
    since,
  )
  const origins = new Map((await cameAndWent(db(), ids)).map((p) => [p.id, p]))
  const verdicts = asked.map(({ record, cause, side }) =>
    cause?.by === 'rule' && side === 'left' ? screenRecord(record, words.rules, moment) : null,
  )
  const employers = new Map(
    (await organisationRecords(db(), [...new Set(asked.flatMap((a) => a.record.organisation ?? []))]))
      .filter((o) => o.live)
      .map((o) => [o.record.id, o.record]),
  )
  const fields = await fieldWords(db())
  const evidence = await evidenceTexts(verdicts.map((v) => v?.evidence ?? null))
  return asked.map(({ record, cause, side }, i) => {
    if (!cause) return ''
    if (cause.by === 'rule')
      return evidence[i] || (side === 'left' ? 'others of the same set come first' : 'the rule no longer holds them back')
    const origin = origins.get(record.id)
    if (cause.by === 'directory' || cause.by === 'list') {
      if (side === 'left')
        return cause.by === 'list'
          ? 'not on the list any more'
          : origin?.into
            ? `merged into ${origin.into}`
            : `${origin?.state ?? 'withdrawn'}`
      return origin && origin.created_at > since
        ? `came in on ${dayText(origin.created_at)}${origin.file_name ? ` with ${origin.file_name}` : ''}`
        : 'clear now, and was not on the list then'
    }
    const line = lineOf(cause, words)
    if (!line || line.verb === 'start') return 'everyone is on now'
    if (line.verb === 'limit') return side === 'left' ? 'others come first now' : 'comes before others now'
    if (line.verb === 'pick') return line.until === null ? 'picked by hand' : `picked until ${dateText(line.until)}`
    return beforeAndAfter(
      line.criterion,
      { ...record, employer: employers.get(record.organisation ?? -1) ?? null },
      changes.filter((c) => c.person_id === record.id || (c.organisation_id !== null && c.organisation_id === record.organisation)),
      since,
      fields,
    )
  })
}

/** Where a field comes from the organisation when the person has none of their own, a new organisation changes it too. */
export const BY_ORGANISATION: readonly AskedField[] = ['town', 'postcode', 'county', 'industry', 'headCount']

/** Returns what a line asks of a person as it was at the round before and as it is now, in words. */
export function beforeAndAfter(
  criterion: Criterion,
  record: PersonRecord,
  changes: { field: string; before: string | null; after: string | null }[],
  since: Date,
  fields: FieldWords,
): string {
  const texts = asks(criterion).map((field) => {
    if (field === 'contact') return contactText(record, since)
    if (field === 'batch' || field === 'round' || field === 'list') return ELSEWHERE[field]
    const exact = changes.filter((c) => c.field === field)
    const own = exact.length > 0 ? exact : changes.filter((c) => BY_ORGANISATION.includes(field) && c.field === 'organisation')
    if (field === 'tags' && own.length > 0) return tagsMoved(own[0].before, own[own.length - 1].after)
    if (own.length === 0) return `${fields.name(field)}: ${valueNow(record, field, fields)}, unchanged`
    return fields.change(own[0].field, own[0].before, own[own.length - 1].after)
  })
  return texts.join(' · ')
}

export const ELSEWHERE = {
  batch: 'stands in another file now',
  round: 'another round was released since',
  list: 'the list that is named changed',
} as const

/** Returns the last contact as it was at the round before and as it is now, in words. */
export function contactText(record: PersonRecord, since: Date): string {
  const latest = (contacts: PersonRecord['contacts']) =>
    contacts.reduce<PersonRecord['contacts'][number] | null>((a, b) => (a === null || b.at > a.at ? b : a), null)
  const before = latest(record.contacts.filter((c) => c.at <= since.getTime()))
  const now = latest(record.contacts)
  const said = (c: typeof now) => (c ? `${CHANNEL_NAME[c.channel]} on ${dayText(new Date(c.at))}` : 'never contacted')
  return before === now ? `last contact: ${said(now)}; only time has passed` : `last contact: ${said(before)} → ${said(now)}`
}

/** Returns the value of a field that a line asks about, in words. */
export function valueNow(record: PersonRecord, field: AskedField, fields: FieldWords): string {
  switch (field) {
    case 'email':
    case 'phone':
    case 'post':
    case 'direct':
      return record.addresses.some((a) => a.channel === field && a.usable) ? 'usable' : 'none usable'
    case 'tags':
      return record.tags.join(', ') || 'none'
    case 'role':
    case 'county':
    case 'town':
    case 'postcode':
    case 'street':
    case 'relation':
      return String(record[field] ?? 'none')
    case 'industry':
    case 'headCount':
      return String(record.employer?.[field] ?? 'none')
    case 'name':
      return record.employer?.name ?? 'none'
    case 'website':
      return record.employer?.domain ?? 'none'
    default: {
      const custom = customIdOf(field)
      return custom === null ? 'known' : fields.value(field, record.custom[custom] ?? record.employer?.custom[custom] ?? null)
    }
  }
}
