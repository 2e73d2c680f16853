import { array, boolean, object, string } from 'yup'
import { isDay, startOfDate } from '@/core/calendar/local-day'
import { cleanDirect } from '@/core/clean/direct'
import { cleanDomain } from '@/core/clean/domain'
import { cleanEmail } from '@/core/clean/email'
import { isForEverybody } from '@/core/clean/email-traits'
import { trimmed } from '@/core/clean/name'
import { cleanPhone } from '@/core/clean/phone'
import { cleanPostal, postalKey } from '@/core/clean/postal'
import { db, type Knex } from '@/db/connection'
import { domainKey, keysOf } from '@/db/key'
import { countAtDomain, isAddress } from '@/db/directory/address-rows'
import { countText } from '@/core/text/written'
import { passGate } from '@/db/locks'
import { now } from '@/runtime/clock'
import { settings } from '@/runtime/settings'
import { type Actor, Refused } from '@/usecases/team/actor'
import { channelsClosed, type NewSuppression, type Suppressed, writeSuppressions } from './suppress-people'
import { branchesOf, organisationKeyed } from '@/db/directory/organisation-rows'
import { postOf } from '@/db/directory/postal-rows'
import { peopleWithOrganisation, personId } from '@/db/directory/person-rows'
import { CHANNELS } from '@/core/records/channels'
import { REASONS } from '@/core/records/suppression'
import type { Target } from './suppression-index'

export const schema = object({
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
  evidence: string().transform(trimmed).max(400, 'The evidence holds at most 400 characters.').nullable().default(null),
  /** Whether a domain is meant even where anybody can have an address at it. */
  wholeProvider: boolean().default(false),
})

/** More belong into a file under Intake. */
export const MOST_TEXTS = 500

/**
 * Suppresses a person, or whoever has an email, phone, profile, domain, postal address or organisation now or later. Anybody
 * may: holding back is never refused, but for a whole mail provider, which has to be meant.
 */
export async function suppress(actor: Actor, target: Target, input: unknown): Promise<number> {
  const given = givenIn(input)
  return db().transaction(async (trx) => {
    await passGate(trx)
    const of = await meantWhole(trx, target, given)
    const branches = 'organisation' in target && target.branches ? await branchesOf(trx, target.organisation) : []
    const all: Suppressed[] = [of, ...branches.map(({ id, name, name_key }) => ({ organisation: { id, name, nameKey: name_key } }))]
    const [id] = await writeSuppressions(
      trx,
      all.map((own) => suppressionOf(actor, own, given)),
    )
    return id
  })
}

/**
 * Suppresses several emails, phones, domains or profiles at once, each once however often it stands there; gives how many. All of them or none:
 * what cannot be read is told line by line.
 */
export async function suppressTexts(actor: Actor, texts: readonly string[], input: unknown): Promise<number> {
  const given = givenIn(input)
  const lines = texts.map((text) => text.trim()).filter((text) => text !== '')
  if (lines.length === 0) throw new Refused('Write an email address, a phone number, a domain or a profile link, one a line.')
  if (lines.length > MOST_TEXTS)
    throw new Refused(`These are ${lines.length} lines; at most ${MOST_TEXTS} at once. Import more as a file under Intake.`)
  return db().transaction(async (trx) => {
    await passGate(trx)
    const meant = new Map<string, Suppressed>()
    const wrong: string[] = []
    for (const text of lines)
      try {
        const of = await meantWhole(trx, { text }, given)
        meant.set(JSON.stringify(of), of)
      } catch (error) {
        if (!(error instanceof Refused)) throw error
        wrong.push(error.message)
      }
    if (wrong.length > 0)
      throw new Refused(
        lines.length === 1
          ? wrong[0]
          : `${[...new Set(wrong)].slice(0, 5).join(' ')}${wrong.length > 5 ? ` And ${wrong.length - 5} more.` : ''} None of the ${lines.length} lines was suppressed.`,
      )
    return (
      await writeSuppressions(
        trx,
        [...meant.values()].map((of) => suppressionOf(actor, of, given)),
      )
    ).length
  })
}

type Given = ReturnType<typeof givenIn>

/** What a form gives, with its days as instants. Throws where they end before they begin. */
function givenIn(input: unknown) {
  const given = schema.validateSync(input, { abortEarly: false })
  const zone = settings().ARCH_ZONE
  const since = given.since ? new Date(startOfDate(given.since, zone)) : null
  const until = given.until ? new Date(startOfDate(given.until, zone)) : null
  if (until && until <= (since ?? now())) throw new Refused('The end must come after the beginning.')
  if (given.reason === 'agreed pause' && !until) throw new Refused('An agreed pause ends by itself: give the day it ends.')
  return { ...given, since, until }
}

function suppressionOf(actor: Actor, of: Suppressed, { reason, channels: asked, since, until, word, evidence }: Given): NewSuppression {
  const channels = channelsClosed(reason, of, asked)
  if (channels.length === 0 || (reason === 'register' && !asked.includes('phone')))
    throw new Refused('A do-not-call register is about phone numbers. Nothing was suppressed. Choose the phone, or another reason.')
  return { of, reason, channels, since, until, word, evidence: evidence || null, actor: actor.id }
}

/** Whom a target means; a mail provider for everybody only where that is said. */
async function meantWhole(trx: Knex, target: Target, { wholeProvider }: Given): Promise<Suppressed> {
  const of = await meant(trx, target)
  if ('domain' in of && !wholeProvider && isForEverybody(of.domain)) {
    const n = await countAtDomain(trx, domainKey(of.domain))
    throw new Refused(
      `${of.domain} is a mail provider at which anybody can have an address: ${countText(n)} ${n === 1 ? 'address' : 'addresses'} in the directory would be closed, and all that come in later. Nothing was suppressed. Tick “Also a whole mail provider” if you mean it.`,
    )
  }
  return of
}

/** Returns whom or what a suppression is for. Refuses where they are not in the directory. */
export async function meant(trx: Knex, target: Target): Promise<Suppressed> {
  if ('person' in target) {
    if (!(await personId(trx, target.person))) throw new Refused('There is no such person in the directory.', 'not found')
    return target
  }
  if ('household' in target) {
    if (!(await personId(trx, target.household))) throw new Refused('There is no such person in the directory.', 'not found')
    const [person] = await peopleWithOrganisation(trx, [target.household])
    if (person.organisation_id !== null)
      throw new Refused('This person works at an organisation, so they are of no household here. Suppress the person or the organisation.')
    const post = await postOf(trx, target.household)
    const postal = post && cleanPostal(post as never)
    if (!postal || postalKey(postal) === null)
      throw new Refused('Their postal address is not known well enough to tell the household. Suppress the person.')
    return { household: postal }
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
  const of = addressMeant(target.text)
  const handle = 'domain' in of ? cleanDirect(target.text) : null
  if (!('domain' in of) || !handle?.usable || !(await isAddress(trx, keysOf({ direct: handle.normal }).key))) return of
  // “@name.design” may be the handle of somebody here as well as a domain.
  if ((await countAtDomain(trx, domainKey(of.domain))) === 0) return { direct: handle.normal }
  throw new Refused(
    `“${target.text.trim()}” is the handle of somebody in the directory, and also a domain at which somebody has an email. Nothing was suppressed. Suppress it on the page of the person, or write one of the emails.`,
  )
}

/** Returns what a typed address is: a domain, a handle, an email address or a phone number. Refuses what is none. */
export function addressMeant(text: string): Suppressed {
  const domain = text.trim().startsWith('@') ? cleanDomain(text) : null
  if (domain) return { domain }
  const direct = cleanDirect(text)
  // A link may hold an @ or digits, and an email or a phone no host before a slash.
  if (direct?.usable && /^(https?:\/\/|@|acct:|[\w-]+(\.[\w-]+)*\.[a-z]{2,}\/)/i.test(text.trim())) return { direct: direct.normal }
  const email = cleanEmail(text)
  if (text.includes('@') && email?.usable) return { email: email.normal }
  const phone = text.includes('@') ? null : cleanPhone(text, settings().ARCH_REGION)
  if (phone?.usable) return { phone: phone.normal }
  throw new Refused(
    `“${text.trim()}” is neither an email address, nor a phone number, nor a domain such as @example.org, nor a profile link or handle.`,
  )
}
