import { fold } from '@/core/clean/fold'
import { organisationKey } from '@/core/clean/organisation'
import { CHANNEL_NAME, type Channel, type Reason, REASON_NAME, type Way } from '@/core/columns/person-record'
import type { LedgerItem, OrganisationPage, OrganisationView, PersonPage, PersonView } from '@/core/views/record-views'
import { type PeopleSort, SORTS } from '@/core/columns/find'
import { phoneState } from '@/core/rounds/results'
import { tagsMoved } from '@/core/views/tags-moved'
import type { Glance } from '@/core/screening/glance'
import { inForce } from '@/core/screening/kind'
import { standOf } from '@/core/screening/stand'
import { db } from '@/db/connection'
import { askEngine, EngineAway } from '@/engine/client'
import type { FindAnswer } from '@/engine/protocol'
import { now } from '@/runtime/clock'
import { type Actor, Refused } from '@/usecases/team/actor'
import { sentenceCase } from '@/usecases/screening/evidence'
import { seenBy } from '@/usecases/lists/lists'
import { PAGE } from '@/usecases/lists/list-account'
import { numberSetting } from '@/usecases/team/number-settings'
import { customFields, fieldNames } from './custom-fields'
import { fieldsOf } from './field-values'
import { peoplePage, peopleRows } from './people-page'
import { emailTraits } from '@/core/clean/email-traits'
import { momentNow } from '@/usecases/screening/screening-now'
import { dayText } from '@/runtime/day-text'

/** How many emails or phones a typed word may be part of before more letters are needed to tell them apart. */
const MOST_ADDRESSES = 20_000

/** People whose name, organisation, email or phone says every word that was typed. */
export async function findPeople(
  actor: Actor,
  typed: string,
  sort: PeopleSort = 'name',
  offset = 0,
): Promise<{ total: number; behind: string | null; people: PersonView[] }> {
  const { total, ids, behind, glances } = await askFind(actor, typed, sort, offset, PAGE)
  return {
    total,
    behind: behind === null ? null : new Date(behind).toISOString(),
    people: glances ? await peopleRows(ids, glances) : (await peoplePage(ids)).map(({ view }) => view),
  }
}

/** The ids of everybody found, so many at most. */
export async function idsFound(actor: Actor, typed: string, most: number): Promise<number[]> {
  return (await askFind(actor, typed, 'name', 0, most)).ids
}

async function askFind(
  _actor: Actor,
  typed: string,
  sort: PeopleSort,
  offset: number,
  limit: number,
): Promise<Omit<FindAnswer, 'glances'> & { glances?: Glance[] }> {
  const words = await Promise.all(wordsOf(typed).map(async (text) => ({ text, ids: await havingAddress(text) })))
  try {
    return await askEngine('find', { moment: momentNow(), words, sort: SORTS.includes(sort) ? sort : 'name', page: { offset, limit } })
  } catch (error) {
    if (!(error instanceof EngineAway)) throw error
    return findByDatabase(words, offset, limit)
  }
}

/** Whoever has an email or phone that a word is part of; nobody where it cannot be part of one. */
async function havingAddress(word: string): Promise<number[]> {
  if (!/[@\d]/.test(word) || word.length < 3) return []
  const like = `%${word.replace(/[%_\\]/g, '')}%`
  const rows = await db()('address as a')
    .join('person as p', 'p.id', 'a.person_id')
    .where('p.state', 'live')
    .whereIn('a.channel', ['email', 'phone'])
    .where('a.value', 'like', like)
    .limit(MOST_ADDRESSES)
    .distinct('a.person_id as id')
  return rows.map((row) => row.id)
}

/** While the engine is away: by name, and counted only as far as it goes. */
async function findByDatabase(
  words: { text: string; ids: number[] }[],
  offset: number,
  limit: number,
): Promise<{ total: number; ids: number[]; behind: null }> {
  const query = db()('person as p').leftJoin('organisation as o', 'o.id', 'p.organisation_id').where('p.state', 'live')
  for (const { text, ids } of words) {
    const like = `%${text.replace(/[%_\\]/g, '')}%`
    query.where((some) =>
      some.where('p.sort_key', 'like', like).orWhere('o.name_key', 'like', like).orWhereRaw('p.id = any(?::bigint[])', [ids]),
    )
  }
  const found = await query
    .orderByRaw('p.sort_key, p.id')
    .offset(offset)
    .limit(limit + 1)
    .select('p.id')
  return { total: offset + found.length, ids: found.slice(0, limit).map((row) => row.id), behind: null }
}

function wordsOf(typed: string): string[] {
  const text = typed.slice(0, 200)
  if (text.includes('@')) return [text.trim().toLowerCase()]
  const digits = text.replace(/[^\d]/g, '')
  if (/^[+\d\s()-]+$/.test(text) && digits.length >= 3) return [digits.replace(/^0/, '')]
  return fold(text).split(' ').filter(Boolean)
}

function organisationsSaying(typed: string) {
  const query = db()('organisation as o').where('o.live', true)
  for (const word of organisationKey(typed.slice(0, 200)).split(' ').filter(Boolean)) query.where('o.name_key', 'like', `%${word}%`)
  return query
}

/** The ids of all organisations found, so many at most. */
export async function organisationIdsFound(_actor: Actor, typed: string, most: number): Promise<number[]> {
  return (await organisationsSaying(typed).orderBy('o.id').limit(most).select('o.id')).map((row) => row.id)
}

export async function findOrganisations(
  _actor: Actor,
  typed: string,
  sort: 'name' | 'town' | 'people' = 'name',
  offset = 0,
): Promise<{ total: number; organisations: OrganisationView[] }> {
  const query = organisationsSaying(typed)
  const [{ total }] = await query.clone().select(db().raw('count(*)::int as total'))
  const order =
    { name: 'o.name_key, o.id', town: 'o.town nulls last, o.name_key', people: 'people desc, o.name_key' }[sort] ?? 'o.name_key, o.id'
  const rows = await query
    .select('o.id', 'o.name', 'o.industry', 'o.town')
    .select(db().raw(`(select count(*) from person p where p.organisation_id = o.id and p.state = 'live')::int as people`))
    .select(db().raw(`(select max(f.last_at) from facts f join person p on p.id = f.person_id where p.organisation_id = o.id) as last_at`))
    .orderByRaw(order)
    .offset(offset)
    .limit(PAGE)
  return {
    total,
    organisations: rows.map((o) => ({
      id: o.id,
      name: o.name,
      industry: o.industry,
      town: o.town,
      people: o.people,
      lastAt: o.last_at?.toISOString() ?? null,
    })),
  }
}

/** Everything about one person, their ledger included. */
export async function openPerson(actor: Actor, id: number): Promise<PersonPage> {
  const person = Number.isSafeInteger(id) ? await db()('person').where({ id }).first() : undefined
  if (!person) throw new Refused('There is no such person in the directory.', 'not found')
  const asOf = now().getTime()
  const [{ view, record }] = await peoplePage([id])
  const mergedHere: { id: number; name: string }[] = await db()('person').where({ merged_into: id }).orderBy('id').select('id', 'name')
  const into = person.merged_into ? await db()('person').where({ id: person.merged_into }).first('id', 'name') : null
  const whole = [id, ...mergedHere.map((m) => m.id)]
  const addresses = await db()('address')
    .where({ person_id: id })
    .orderBy(['channel', 'position', 'id'])
    .select('id', 'channel', 'value', 'usable', 'why_unusable')
  const states = await addressStates(id)
  const suppressions = await db()('suppression as s')
    .leftJoin('suppression_lifted as l', 'l.suppression_id', 's.id')
    .leftJoin('user as u', 'u.id', 's.actor_id')
    .leftJoin('user as lu', 'lu.id', 'l.actor_id')
    .whereRaw('s.id in (select suppression_id from suppression_touch where person_id = any(?::bigint[]))', [whole] as never)
    .orderBy('s.id', 'desc')
    .select('s.*', 'u.name as by', 'l.at as lifted_at', 'l.word as lifted_word', 'lu.name as lifted_by')
  const lists = await db()('round_member as m')
    .join('round as r', 'r.id', 'm.round_id')
    .join('list as l', 'l.id', 'r.list_id')
    .whereIn('m.person_id', whole)
    .whereRaw(seenBy('l'), [actor.id])
    .orderBy('r.released_at', 'desc')
    .select('l.name as list', 'l.id as listId', 'r.number as round', 'r.id as roundId', db().raw('m.held_by is not null as "heldBack"'))
  return {
    view,
    state: person.state,
    relation: person.relation,
    tags: person.tags,
    custom: (await customFields(db())).map((field) => ({ field, value: person.custom[field.id] ?? null })),
    outsideId: person.outside_id,
    postal: [person.street, person.town, person.postcode].filter(Boolean).join(', ') || null,
    addresses: addresses.map((a) => {
      const own = record.addresses.find((r) => r.id === a.id)
      const s = own?.suppressions.find((held) => held.channels.includes(a.channel) && inForce(held, asOf))
      return {
        id: a.id,
        channel: a.channel,
        value: a.value,
        usable: a.usable && own?.failedAt === null,
        why: a.why_unusable ?? (own?.failedAt ? `failed ${dayText(new Date(own.failedAt))}` : null),
        about: a.channel === 'email' && a.usable ? aboutEmail(a.value) : null,
        state: states.get(a.id) ?? null,
        suppressed: s ? REASON_NAME[s.reason] : null,
      }
    }),
    suppressions: suppressions.map((s) => ({
      id: s.id,
      reason: s.reason,
      scope: s.scope,
      who: s.hint,
      channels: s.channels,
      since: s.since.toISOString(),
      until: s.until?.toISOString() ?? null,
      word: s.word,
      by: s.by ?? '',
      stand: standOf({ since: s.since.getTime(), until: s.until?.getTime() ?? null, lifted: s.lifted_at !== null }, asOf),
      lifted: s.lifted_at ? { at: s.lifted_at.toISOString(), word: s.lifted_word, by: s.lifted_by ?? '' } : null,
    })),
    lists,
    mergedHere,
    mergedInto: into ?? null,
    came: await rowsOfPerson(whole),
    ledger: await ledgerOf(actor, 'person_id', whole),
  }
}

/** What checks have shown of somebody's email addresses and calls of their numbers, by the address. */
async function addressStates(person: number): Promise<Map<number, PersonPage['addresses'][number]['state']>> {
  const { rows } = await db().raw(
    `select a.id, a.channel, (select count(distinct o.person_id)::int from address o join person p on p.id = o.person_id join person me on me.id = a.person_id
         where o.key = a.key and o.channel = a.channel and o.person_id <> a.person_id and p.state = 'live' and p.organisation_id = me.organisation_id) as colleagues, c.state, c.why, c.source, coalesce(c.at, e.at) as at, e.result from address a left join email_check c on c.key = a.key and a.channel = 'email'
       left join lateral (select e.at, e.result from entry e where e.address_id = a.id and e.kind = 'contact' and tells(e.result) is not null and not exists (select 1 from entry r where r.reverses_id = e.id)
         order by e.at desc, e.id desc limit 1) e on a.channel = 'phone'
     where a.person_id = ? and a.channel in ('email', 'phone')`,
    [person],
  )
  const good = (await numberSetting('email-check-good-for')) * 86_400_000
  return new Map(
    rows.map(
      (r: {
        id: number
        channel: string
        colleagues: number
        state: string | null
        why: string | null
        source: string | null
        at: Date | null
        result: string | null
      }) => [
        r.id,
        {
          is: r.channel === 'email' ? (r.state ?? 'not checked') : phoneState(r.result),
          at: r.at?.toISOString() ?? null,
          why: r.state ? `${r.why}, by the ${(r.source ?? '').toLowerCase()}` : r.result,
          shared: r.colleagues,
          // Calls do not go by an age of their own; a check does.
          old: r.channel === 'email' && r.at !== null && now().getTime() - r.at.getTime() > good,
        },
      ],
    ),
  )
}

/** What can be told of an email address by looking at it, in words; null where it is one person's at work. */
function aboutEmail(address: string): string | null {
  const { kind, roleAccount, disposable, likely } = emailTraits(address)
  return likely
    ? `may be meant as ${likely}`
    : disposable
      ? 'at a provider of throw-away addresses'
      : roleAccount
        ? 'of a post, not of one person'
        : kind === 'personal'
          ? 'personal'
          : null
}

/** The rows of files somebody was in, as they came, the newest first: at most twenty. */
async function rowsOfPerson(ids: number[]): Promise<PersonPage['came']> {
  const rows = await db()('batch_row as r')
    .join('batch as b', 'b.id', 'r.batch_id')
    .whereIn('r.person_id', ids)
    .where('b.kind', 'people')
    .orderBy('b.id', 'desc')
    .orderBy('r.row_no')
    .limit(20)
    .select('r.batch_id', 'r.row_no', 'r.raw', 'b.file_name', 'b.header', 'b.created_at')
  return rows.map((r) => ({
    batch: r.batch_id,
    file: r.file_name,
    at: r.created_at.toISOString(),
    row: r.row_no,
    cells: (r.header as string[]).flatMap((title, i) =>
      r.raw[i]?.trim() ? [{ title: title || `Column ${i + 1}`, cell: r.raw[i] as string }] : [],
    ),
  }))
}

/** So many of the people of an organisation are shown on its page. */
const MOST_SHOWN = 500

export async function openOrganisation(actor: Actor, id: number): Promise<OrganisationPage> {
  const o = Number.isSafeInteger(id) ? await db()('organisation').where({ id }).first() : undefined
  if (!o) throw new Refused('There is no such organisation in the directory.', 'not found')
  const ids = (await db()('person').where({ organisation_id: id, state: 'live' }).orderBy('sort_key').limit(MOST_SHOWN).select('id')).map(
    (p) => p.id,
  )
  const staff = (await peoplePage(ids)).map(({ view }) => view)
  const lastAt = staff.map((p) => p.last?.at ?? '').reduce((a, b) => (b > a ? b : a), '')
  const [{ all }] = await db()('person').where({ organisation_id: id, state: 'live' }).select(db().raw('count(*)::int as all'))
  return {
    id,
    name: o.name,
    industry: o.industry,
    town: o.town,
    people: all,
    lastAt: lastAt || null,
    postal: [o.street, o.town, o.postcode].filter(Boolean).join(', ') || null,
    county: o.county,
    headCount: o.head_count,
    website: o.website,
    fields: await fieldsOf(o.details),
    staff,
    ledger: await ledgerOf(actor, 'organisation_id', [id]),
  }
}

/** The ledger of some records, the newest entries first. */
export async function ledgerOf(
  actor: Actor,
  column: 'person_id' | 'organisation_id' | 'premises_id',
  ids: number[],
): Promise<LedgerItem[]> {
  const rows = await db()('entry as e')
    .leftJoin('entry_value as v', 'v.id', 'e.value_id')
    .leftJoin('user as u', 'u.id', 'e.actor_id')
    .leftJoin('batch as b', 'b.id', 'e.batch_id')
    .leftJoin('round as r', 'r.id', 'e.round_id')
    .leftJoin('list as l', 'l.id', 'r.list_id')
    .leftJoin('suppression as s', 's.id', 'e.suppression_id')
    .whereIn(`e.${column}`, ids)
    .orderBy([
      { column: 'e.at', order: 'desc' },
      { column: 'e.id', order: 'desc' },
    ])
    .limit(500)
    .select(
      'e.id',
      'e.at',
      'e.kind',
      'e.channel',
      'e.result',
      'e.field',
      'v.before',
      'v.after',
      'v.note',
      'u.name as by',
      'b.file_name',
      'r.number as round',
      'l.name as list',
      db().raw('role_on(l, ?) is not null as seen', [actor.id]),
      's.word',
      's.until',
    )
  const named = await fieldNames(db())
  return rows.map((e) => {
    const list = e.list ? (e.seen ? e.list : 'a private list') : null
    return {
      id: e.id,
      at: e.at.toISOString(),
      kind: e.kind,
      by: e.by ?? '',
      ...entryText({ ...e, field: e.field && named(e.field), list }),
    }
  })
}

/** One entry of the ledger in words. */
function entryText(e: {
  kind: string
  channel: Way | null
  result: string | null
  field: string | null
  before: string | null
  after: string | null
  note: string | null
  file_name: string | null
  round: number | null
  list: string | null
  word: string | null
  until: Date | null
}): { title: string; detail: string | null } {
  const from = e.file_name ? `with ${e.file_name}` : null
  const round = e.round ? `round ${e.round} of ${e.list}` : null
  switch (e.kind) {
    case 'created':
      return { title: 'Came into the directory', detail: from }
    case 'change':
      if (e.field === 'tags') return { title: tagsMoved(e.before, e.after), detail: from }
      return {
        title: `${sentenceCase(e.field === 'post' ? 'address' : e.field === 'headCount' ? 'head count' : (e.field ?? ''))}: ${e.before ?? 'none'} → ${e.after ?? 'none'}`,
        detail: from,
      }
    case 'contact':
      return {
        title: `${sentenceCase(CHANNEL_NAME[e.channel as Way])}${e.result ? ` · ${e.result}` : ''}`,
        detail: [e.note, round, from].filter(Boolean).join(' · ') || null,
      }
    case 'note':
      return { title: 'Note', detail: e.note }
    case 'suppressed':
      if (e.note) return { title: 'Suppressed again', detail: e.note }
      return {
        title: `Suppressed: ${REASON_NAME[e.result as Reason] ?? e.result}`,
        detail: [e.word && `on the word of ${e.word}`, e.until && `until ${dayText(e.until)}`, from].filter(Boolean).join(' · ') || null,
      }
    case 'lifted':
      return { title: 'Suppression lifted', detail: e.note }
    case 'listed':
      return { title: 'Came onto the list', detail: round }
    case 'unlisted':
      return { title: 'Left the list', detail: round }
    case 'released':
      return {
        title: `Released for contact by ${(e.result ?? '')
          .split(', ')
          .map((c) => CHANNEL_NAME[c as Channel] ?? c)
          .join(', ')}`,
        detail: round,
      }
    case 'let through':
      return { title: `Let through by ${e.channel ? CHANNEL_NAME[e.channel] : ''}`, detail: [e.note, round].filter(Boolean).join(' · ') }
    case 'exported':
      return {
        title: `Saved to a file although closed: ${(e.result ?? '')
          .split(', ')
          .map((c) => CHANNEL_NAME[c as Channel] ?? c)
          .join(', ')}`,
        detail: e.note,
      }
    case 'withdrawn':
      return { title: 'Withdrawn from the directory', detail: e.note }
    case 'merged':
      return { title: `Merged: ${e.note ?? ''}`, detail: null }
    case 'parted':
      return { title: `Merge taken back: ${e.note ?? ''}`, detail: null }
    case 'reversed':
      return { title: 'An entry was reversed', detail: [e.note, round].filter(Boolean).join(' · ') || null }
    case 'not worked':
      return { title: `Not worked: ${e.channel ? CHANNEL_NAME[e.channel] : ''}`, detail: round }
    default:
      return { title: sentenceCase(e.kind), detail: e.note }
  }
}
