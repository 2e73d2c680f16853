import { array, object, string } from 'yup'
import { localDate, startOfDate } from '@/core/calendar/local-day'
import { cleanDomain, domainOf } from '@/core/clean/domain'
import { cleanEmail } from '@/core/clean/email'
import { cleanPhone } from '@/core/clean/phone'
import { cleanPostal, postalKey } from '@/core/clean/postal'
import { CHANNELS, REASONS, type Reason, SCOPE_NAME, type Scope } from '@/core/columns/person-record'
import { goodThrough } from '@/core/screening/register'
import type { SuppressionIndex } from '@/core/outputs/round-views'
import { db, type Knex } from '@/db/connection'
import { addressKey, domainKey } from '@/db/key'
import { writeEntries } from '@/db/ledger'
import { now } from '@/runtime/clock'
import { settings } from '@/runtime/settings'
import { type Actor, mustCoordinate, Refused } from './actor'
import { PAGE } from './list-account'
import { channelsOf, peopleTouched, scopeOf, type Suppressed, writeSuppressions } from './suppress-people'
import { writeCsv } from './write-csv'

const schema = object({
  reason: string().oneOf(REASONS, 'Choose a reason.').required('Choose a reason.'),
  channels: array(string().oneOf(CHANNELS).required()).min(1, 'Choose at least one channel.').required('Choose at least one channel.'),
  since: string().matches(/^\d{4}-\d\d-\d\d$/, 'Since: give a day.').nullable().default(null),
  until: string().matches(/^\d{4}-\d\d-\d\d$/, 'Until: give a day.').nullable().default(null),
  word: string().trim().max(200).required('Say on whose word.'),
})

/** What somebody typed to be suppressed: an e-mail, phone or @domain; a postal address; an organisation of the directory. */
export type Target = { person: number } | { text: string } | { postal: { street: string; town: string; postcode: string } } | { organisation: number }

/**
 * Suppresses a person, or whoever has an e-mail, phone, domain, postal address or organisation now or later. Anybody
 * may: holding back is never refused.
 */
export async function suppress(actor: Actor, target: Target, input: unknown): Promise<number> {
  const given = schema.validateSync(input, { abortEarly: false })
  const zone = settings().ARCH_ZONE
  const since = given.since ? new Date(startOfDate(given.since, zone)) : now()
  const until = given.until ? new Date(startOfDate(given.until, zone)) : null
  if (until && until <= since) throw new Refused('Until must lie after since.')
  return db().transaction(async (trx) => {
    const of = await meant(trx, target)
    const possible = channelsOf(scopeOf(of))
    const chosen = given.channels.filter((c) => possible.includes(c))
    const channels = possible.length === CHANNELS.length && chosen.length > 0 ? chosen : [...possible]
    const [id] = await writeSuppressions(trx, [{ of, reason: given.reason, channels, since, until, word: given.word, actor: actor.id }], now())
    return id
  })
}

async function meant(trx: Knex, target: Target): Promise<Suppressed> {
  if ('person' in target) {
    if (!(await trx('person').where({ id: target.person }).first('id'))) throw new Refused('There is nobody with this number in the directory.', 'not found')
    return target
  }
  if ('organisation' in target) {
    const o = await trx('organisation').where({ id: target.organisation }).first('id', 'name', 'name_key')
    if (!o) throw new Refused('There is no such organisation in the directory.', 'not found')
    return { organisation: { id: o.id, name: o.name, nameKey: o.name_key } }
  }
  if ('postal' in target) {
    const postal = cleanPostal(target.postal)
    if (postalKey(postal) === null) throw new Refused('A postal address needs its street, and its town or postcode.')
    return { postal }
  }
  return addressMeant(target.text)
}

function addressMeant(text: string): Suppressed {
  const domain = text.trim().startsWith('@') ? cleanDomain(text) : null
  if (domain) return { domain }
  const email = cleanEmail(text)
  if (text.includes('@') && email?.usable) return { email: email.normal }
  const phone = text.includes('@') ? null : cleanPhone(text, settings().ARCH_REGION)
  if (phone?.usable) return { phone: phone.normal }
  throw new Refused(`“${text.trim()}” is neither an e-mail address, nor a phone number, nor a domain such as @example.org.`)
}

/** Lifts a suppression by an entry that says why. What was suppressed and lifted both stay in the ledger. */
export async function liftSuppression(actor: Actor, id: number, word: string): Promise<void> {
  mustCoordinate(actor, 'Lifting a suppression')
  const reason = word.trim()
  if (reason === '') throw new Refused('Say on whose word it is lifted.')
  await db().transaction(async (trx) => {
    const suppression = await trx('suppression').where({ id }).first('id')
    if (!suppression) throw new Refused('There is no such suppression.', 'not found')
    const lifted = await trx('suppression_lift').insert({ suppression_id: id, at: now(), word: reason, actor_id: actor.id }).onConflict('suppression_id').ignore().returning('suppression_id')
    if (lifted.length === 0) throw new Refused('This suppression is lifted already.')
    const told = (await trx('entry').where({ suppression_id: id, kind: 'suppressed' }).select('person_id')).map((e) => e.person_id)
    const people = new Set<number>([...told, ...((await peopleTouched(trx, [id])).get(id) ?? [])])
    await writeEntries(trx, [...people].map((person) => ({ person, kind: 'lifted' as const, at: now(), actor: actor.id, suppression: id, note: reason })), now())
  })
}

/** Suppressions that stand by an earlier version of the register in use, and whose number is not in it any more. */
async function goneFromRegister(trx: Knex): Promise<number[]> {
  const { rows } = await trx.raw(
    `with now_in_use as (select batch_id, name from register_file where batch_id is not null order by version desc, id desc limit 1),
       earlier as (select f.batch_id from register_file f, now_in_use n where f.name = n.name and f.batch_id <> n.batch_id)
     select distinct s.id from suppression_standing s join suppression_key k on k.suppression_id = s.id join register_key e on e.key = k.key and e.batch_id in (select batch_id from earlier)
     where s.reason = 'register' and not exists (select 1 from suppression_key o join register_key r on r.key = o.key join now_in_use n on n.batch_id = r.batch_id where o.suppression_id = s.id)`,
  )
  return rows.map((row: { id: number }) => row.id)
}

/** Lifts what stands by an earlier version of the register in use and is not in it any more, each by an entry. Gives how many. */
export async function liftGone(actor: Actor): Promise<number> {
  mustCoordinate(actor, 'Lifting a suppression')
  return db().transaction(async (trx) => {
    const ids = await goneFromRegister(trx)
    if (ids.length === 0) return 0
    const { name, version } = await trx('register_file').orderBy('version', 'desc').orderBy('id', 'desc').first('name', 'version')
    const [at, word] = [now(), `not on ${name} of ${version} any more`]
    await trx('suppression_lift').insert(ids.map((id) => ({ suppression_id: id, at, word, actor_id: actor.id }))).onConflict('suppression_id').ignore()
    const touched = await peopleTouched(trx, ids)
    await writeEntries(trx, ids.flatMap((id) => (touched.get(id) ?? []).map((person) => ({ person, kind: 'lifted' as const, at, actor: actor.id, suppression: id, note: word }))), at)
    return ids.length
  })
}

function suppressionsFound(typed: string, reason: Reason | null) {
  const query = db()('suppression as s').leftJoin('person as p', 'p.id', 's.person_id').leftJoin('suppression_lift as l', 'l.suppression_id', 's.id').leftJoin('user as u', 'u.id', 's.actor_id')
  if (reason) query.where('s.reason', reason)
  const text = typed.slice(0, 200).trim()
  if (text) {
    const email = cleanEmail(text)
    const phone = cleanPhone(text, settings().ARCH_REGION)
    const domain = cleanDomain(text)
    const keys = [email?.usable && addressKey('email', email.normal), email?.usable && domainKey(domainOf(email.normal)), phone?.usable && addressKey('phone', phone.normal), domain && domainKey(domain)].filter((k): k is Buffer => Buffer.isBuffer(k))
    const like = `%${text.replace(/[%_\\]/g, '')}%`
    query.where((some) => {
      some.whereILike('p.name', like).orWhere((own) => own.whereIn('s.scope', ['organisation', 'post', 'domain']).whereILike('s.hint', like)).orWhereILike('s.word', like)
      if (keys.length > 0) some.orWhereIn('s.id', db()('suppression_key').whereIn('key', keys).select('suppression_id'))
    })
  }
  return query
}

/** Suppressions, the newest first; found by person, organisation, town, domain, whose word, or a whole e-mail or phone. */
export async function suppressionIndex(_actor: Actor, typed = '', reason: Reason | null = null, offset = 0): Promise<SuppressionIndex> {
  const query = suppressionsFound(typed, reason)
  const [{ total }] = await query.clone().select(db().raw('count(*)::int as total'))
  const rows = await query.orderBy('s.id', 'desc').offset(offset).limit(PAGE).select('s.*', 'p.name', 'u.name as by', 'l.at as lifted_at')
  const touched = await peopleTouched(db(), rows.map((s) => s.id))
  const counts = await db()('suppression as s').leftJoin('suppression_lift as l', 'l.suppression_id', 's.id').groupBy('s.reason').select('s.reason').select(db().raw('(count(*) - count(l.at))::int as standing, count(l.at)::int as lifted'))
  const register = await db()('register_file').orderBy('version', 'desc').orderBy('id', 'desc').first('name', 'version', 'good_for', 'fresh', 'gone')
  const gone = register ? (await goneFromRegister(db())).length : 0
  return {
    total,
    rows: rows.map((s) => ({
      id: s.id,
      reason: s.reason,
      channels: s.channels,
      scope: s.scope,
      who: s.name ?? s.hint,
      personId: s.person_id,
      organisationId: s.organisation_id,
      since: s.since.toISOString(),
      until: s.until?.toISOString() ?? null,
      word: s.word,
      by: s.by ?? '',
      lifted: s.lifted_at !== null,
      catches: touched.get(s.id)?.length ?? 0,
    })),
    counts,
    register: register ? { name: register.name, version: register.version, goodThrough: goodThrough(register.version, register.good_for), since: register.fresh === null ? null : { fresh: register.fresh, gone: register.gone }, stillHeld: gone } : null,
  }
}

/** The suppressions found as CSV, in columns that can be brought in again. An e-mail or phone is told in part only: what it was is not kept, but for its key. */
export async function suppressionsCsv(_actor: Actor, typed: string, reason: Reason | null): Promise<{ name: string; bytes: Buffer }> {
  const rows = await suppressionsFound(typed, reason)
    .orderBy('s.id')
    .select('s.*', 'p.name', 'p.outside_id', 'u.name as by', 'l.at as lifted_at', 'l.word as lifted_word')
  const day = (at: Date | null) => (at ? localDate(at.getTime(), settings().ARCH_ZONE) : '')
  return {
    name: 'suppressions.csv',
    bytes: writeCsv(
      ['Suppression', 'Keyed on', 'Who', 'Outside id', 'Domain', 'Organisation', 'Channels', 'Reason', 'Since', 'Until', 'On whose word', 'Entered by', 'Lifted', 'Lifted on whose word'],
      rows.map((s) => [String(s.id), SCOPE_NAME[s.scope as Scope], s.name ?? s.hint, s.outside_id ?? '', s.scope === 'domain' ? s.hint : '', s.scope === 'organisation' ? s.hint : '', s.channels.join(';'), s.reason, day(s.since), day(s.until), s.word, s.by ?? '', day(s.lifted_at), s.lifted_word ?? '']),
    ),
  }
}
