import { array, object, string } from 'yup'
import { startOfDate } from '@/core/calendar/local-day'
import { cleanEmail } from '@/core/clean/email'
import { cleanPhone } from '@/core/clean/phone'
import { CHANNELS, type Channel, REASONS, type Reason } from '@/core/columns/person-record'
import { goodThrough } from '@/core/screening/register'
import type { SuppressionIndex } from '@/core/outputs/views'
import { db } from '@/db/connection'
import { addressKey } from '@/db/key'
import { writeEntries } from '@/db/ledger'
import { now } from '@/runtime/clock'
import { settings } from '@/runtime/settings'
import { type Actor, mustCoordinate, Refused } from './actor'
import { PAGE } from './list-account'
import { type NewSuppression, writeSuppressions } from './suppress-people'

const schema = object({
  reason: string().oneOf(REASONS, 'Choose a reason.').required('Choose a reason.'),
  channels: array(string().oneOf(CHANNELS).required()).min(1, 'Choose at least one channel.').required('Choose at least one channel.'),
  since: string().matches(/^\d{4}-\d\d-\d\d$/, 'Since: give a day.').nullable().default(null),
  until: string().matches(/^\d{4}-\d\d-\d\d$/, 'Until: give a day.').nullable().default(null),
  word: string().trim().max(200).required('Say on whose word.'),
})

/** Suppresses a person, or whoever has an e-mail or phone now or later. Anybody may: holding back is never refused. */
export async function suppress(actor: Actor, target: { person: number } | { text: string }, input: unknown): Promise<number> {
  const given = schema.validateSync(input, { abortEarly: false })
  const zone = settings().ARCH_ZONE
  const since = given.since ? new Date(startOfDate(given.since, zone)) : now()
  const until = given.until ? new Date(startOfDate(given.until, zone)) : null
  if (until && until <= since) throw new Refused('Until must lie after since.')
  const of = 'person' in target ? target : addressMeant(target.text)
  const channels = 'email' in of ? (['email'] as Channel[]) : 'phone' in of ? (['phone'] as Channel[]) : given.channels
  return db().transaction(async (trx) => {
    if ('person' in of && !(await trx('person').where({ id: of.person }).first('id'))) throw new Refused('There is nobody with this number in the directory.', 'not found')
    const [id] = await writeSuppressions(trx, [{ of, reason: given.reason, channels, since, until, word: given.word, actor: actor.id }], now())
    return id
  })
}

function addressMeant(text: string): Exclude<NewSuppression['of'], { person: number }> {
  const email = cleanEmail(text)
  if (text.includes('@') && email?.usable) return { email: email.normal }
  const phone = text.includes('@') ? null : cleanPhone(text, settings().ARCH_REGION)
  if (phone?.usable) return { phone: phone.normal }
  throw new Refused(`“${text.trim()}” is neither an e-mail address nor a phone number.`)
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
    const { rows: people } = await trx.raw(
      `select person_id as id from entry where suppression_id = ? and kind = 'suppressed'
       union select a.person_id from suppression_key k join address a on a.key = k.key where k.suppression_id = ?`,
      [id, id],
    )
    await writeEntries(trx, people.map((p: { id: number }) => ({ person: p.id, kind: 'lifted' as const, at: now(), actor: actor.id, suppression: id, note: reason })), now())
  })
}

/** Suppressions, the newest first; those of an address or number when one is typed, otherwise by person's name. */
export async function suppressionIndex(_actor: Actor, typed = '', reason: Reason | null = null, offset = 0): Promise<SuppressionIndex> {
  const query = db()('suppression as s').leftJoin('person as p', 'p.id', 's.person_id')
  if (reason) query.where('s.reason', reason)
  const text = typed.trim()
  if (text) {
    const keys = [cleanEmail(text), cleanPhone(text, settings().ARCH_REGION)].flatMap((a, i) => (a?.usable ? [addressKey(i === 0 ? 'email' : 'phone', a.normal)] : []))
    query.where((some) => {
      some.whereILike('p.name', `%${text.replace(/[%_\\]/g, '')}%`)
      if (keys.length > 0) some.orWhereIn('s.id', db()('suppression_key').whereIn('key', keys).select('suppression_id'))
    })
  }
  const [{ total }] = await query.clone().select(db().raw('count(*)::int as total'))
  const rows = await query
    .leftJoin('suppression_lift as l', 'l.suppression_id', 's.id')
    .leftJoin('user as u', 'u.id', 's.actor_id')
    .orderBy('s.id', 'desc')
    .offset(offset)
    .limit(PAGE)
    .select('s.*', 'p.name', 'u.name as by', 'l.at as lifted_at')
    .select(db().raw(`(select count(distinct a.person_id) from suppression_key k join address a on a.key = k.key where k.suppression_id = s.id)::int as catches`))
  const counts = await db()('suppression as s').leftJoin('suppression_lift as l', 'l.suppression_id', 's.id').groupBy('s.reason').select('s.reason').select(db().raw('(count(*) - count(l.at))::int as standing, count(l.at)::int as lifted'))
  const register = await db()('register_file').orderBy('version', 'desc').first('name', 'version', 'good_for')
  return {
    total,
    rows: rows.map((s) => ({
      id: s.id,
      reason: s.reason,
      channels: s.channels,
      who: s.name ?? s.hint,
      personId: s.person_id,
      since: s.since.toISOString(),
      until: s.until?.toISOString() ?? null,
      word: s.word,
      by: s.by ?? '',
      lifted: s.lifted_at !== null,
      catches: s.catches,
    })),
    counts,
    register: register ? { name: register.name, version: register.version, goodThrough: goodThrough(register.version, register.good_for) } : null,
  }
}
