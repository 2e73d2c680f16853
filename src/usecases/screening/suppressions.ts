import { array, object, string } from 'yup'
import { isDay, localDate, startOfDate } from '@/core/calendar/local-day'
import { cleanDomain } from '@/core/clean/domain'
import { cleanEmail } from '@/core/clean/email'
import { trimmed } from '@/core/clean/name'
import { cleanPhone } from '@/core/clean/phone'
import { cleanPostal, postalKey } from '@/core/clean/postal'
import { standOf } from '@/core/screening/stand'
import type { SuppressionIndex } from '@/core/views/round-views'
import { db, type Knex } from '@/db/connection'
import { passGate } from '@/db/locks'
import { now } from '@/runtime/clock'
import { settings } from '@/runtime/settings'
import { type Actor, mustCoordinate, Refused } from '@/usecases/team/actor'
import { PAGE } from '@/usecases/lists/list-account'
import { liftMany, registersInUse } from './lift-suppressions'
import { channelsOf, scopeOf, type Suppressed, writeSuppressions } from './suppress-people'
import { writeCsv } from '@/usecases/directory/write-csv'
import { holdLifts, recentLiftings } from '@/db/screening/liftings'
import { countsByReason, everySuppression, peopleTouched, suppressionId, suppressionsPage } from '@/db/screening/suppression-rows'
import { organisationKeyed } from '@/db/directory/organisation-rows'
import { personId } from '@/db/directory/person-rows'
import { CHANNELS } from '@/core/records/channels'
import { type Reason, REASONS, type Scope, SCOPE_NAME } from '@/core/records/suppression'

const schema = object({
  reason: string().oneOf(REASONS, 'Choose a reason.').required('Choose a reason.'),
  channels: array(string().oneOf(CHANNELS).required()).min(1, 'Choose at least one channel.').required('Choose at least one channel.'),
  since: string()
    .test('day', 'Since: give a day.', (day) => day === null || day === undefined || isDay(day))
    .nullable()
    .default(null),
  until: string()
    .test('day', 'Until: give a day.', (day) => day === null || day === undefined || isDay(day))
    .nullable()
    .default(null),
  word: string().transform(trimmed).max(200).required('Say on whose word.'),
})

/** What somebody typed to be suppressed: an email, phone or @domain; a postal address; an organisation of the directory. */
export type Target =
  | { person: number }
  | { text: string }
  | { postal: { street: string; town: string; postcode: string } }
  | { organisation: number }

/**
 * Suppresses a person, or whoever has an email, phone, domain, postal address or organisation now or later. Anybody
 * may: holding back is never refused.
 */
export async function suppress(actor: Actor, target: Target, input: unknown): Promise<number> {
  const given = schema.validateSync(input, { abortEarly: false })
  const zone = settings().ARCH_ZONE
  const since = given.since ? new Date(startOfDate(given.since, zone)) : null
  const until = given.until ? new Date(startOfDate(given.until, zone)) : null
  if (until && until <= (since ?? now())) throw new Refused('Until must lie after since.')
  return db().transaction(async (trx) => {
    await passGate(trx)
    const of = await meant(trx, target)
    const possible = channelsOf(scopeOf(of))
    const chosen = given.channels.filter((c) => possible.includes(c))
    const channels = possible.length === CHANNELS.length && chosen.length > 0 ? chosen : [...possible]
    const [id] = await writeSuppressions(trx, [{ of, reason: given.reason, channels, since, until, word: given.word, actor: actor.id }])
    return id
  })
}

async function meant(trx: Knex, target: Target): Promise<Suppressed> {
  if ('person' in target) {
    if (!(await personId(trx, target.person))) throw new Refused('There is no such person in the directory.', 'not found')
    return target
  }
  if ('organisation' in target) {
    const o = await organisationKeyed(trx, target.organisation)
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
  throw new Refused(`“${text.trim()}” is neither an email address, nor a phone number, nor a domain such as @example.org.`)
}

/** Lifts a suppression by an entry that says why. What was suppressed and lifted both stay in the ledger. */
export async function liftSuppression(actor: Actor, id: number, word: string): Promise<void> {
  mustCoordinate(actor, 'Lifting a suppression')
  const reason = word.trim()
  if (reason === '') throw new Refused('Say on whose word it is lifted.')
  if (!Number.isSafeInteger(id)) throw new Refused('There is no such suppression.', 'not found')
  await db().transaction(async (trx) => {
    await holdLifts(trx)
    const suppression = await suppressionId(trx, id)
    if (!suppression) throw new Refused('There is no such suppression.', 'not found')
    await liftMany(trx, actor, [id], { word: reason })
  })
}

/** Suppressions, the newest first; found by person, organisation, town, domain, whose word, or a whole email or phone. */
export async function suppressionIndex(_actor: Actor, typed = '', reason: Reason | null = null, offset = 0): Promise<SuppressionIndex> {
  const { total, rows } = await suppressionsPage(db(), typed, reason, { offset, limit: PAGE })
  const touched = await peopleTouched(
    db(),
    rows.map((s) => s.id),
  )
  const at = now()
  const counts = await countsByReason(db(), at)
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
      stand: standOf({ since: s.since.getTime(), until: s.until?.getTime() ?? null, lifted: s.lifted_at !== null }, at.getTime()),
      catches: touched.get(s.id)?.length ?? 0,
    })),
    counts,
    registers: await registersInUse(db()),
    liftings: await recentLiftings(db()),
  }
}

/** The suppressions found as CSV, in columns that can be brought in again. An email or phone is told in part only: what it was is not kept, but for its key. */
export async function suppressionsCsv(_actor: Actor, typed: string, reason: Reason | null): Promise<{ name: string; bytes: Buffer }> {
  const rows = await everySuppression(typed, reason)
  const day = (at: Date | null) => (at ? localDate(at.getTime(), settings().ARCH_ZONE) : '')
  return {
    name: 'suppressions.csv',
    bytes: await writeCsv(
      [
        'Suppression',
        'Keyed on',
        'Who',
        'Outside id',
        'Domain',
        'Organisation',
        'Channels',
        'Reason',
        'Since',
        'Until',
        'Requested by',
        'Entered by',
        'Stands',
        'Lifted',
        'Lifted on whose word',
      ],
      rows.map((s) => [
        String(s.id),
        SCOPE_NAME[s.scope as Scope],
        s.name ?? s.hint,
        s.outside_id ?? '',
        s.scope === 'domain' ? s.hint : '',
        s.scope === 'organisation' ? s.hint : '',
        s.channels.join(';'),
        s.reason,
        day(s.since),
        day(s.until),
        s.word,
        s.by ?? '',
        standOf({ since: s.since.getTime(), until: s.until?.getTime() ?? null, lifted: s.lifted_at !== null }, now().getTime()),
        day(s.lifted_at),
        s.lifted_word ?? '',
      ]),
    ),
  }
}
