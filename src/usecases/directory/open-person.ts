import { settings } from '@/runtime/settings'
import { phoneText } from '@/core/clean/phone'
import type { PersonPage } from '@/core/views/record-views'
import { phoneState } from '@/core/records/results'
import { inForce } from '@/core/screening/kind'
import { standOf } from '@/core/screening/stand'
import { db } from '@/db/connection'
import { now } from '@/runtime/clock'
import { type Actor, Refused } from '@/usecases/team/actor'
import { peoplePage } from './people-page'
import { emailTraits } from '@/core/clean/email-traits'
import { ledgerOf } from './ledger-of'
import { dayText } from '@/core/text/written'
import { customFields } from '@/db/directory/custom-fields'
import { mergedHere, personName, personRow, rowsOfPerson } from '@/db/directory/person-rows'
import { numberSetting } from '@/db/team/settings'
import { addressRows, addressStates } from '@/db/directory/address-rows'
import { roundsOfPerson } from '@/db/rounds/round-rows'
import { suppressionsOf } from '@/db/screening/suppression-rows'
import { REASON_NAME } from '@/core/records/suppression'

const softText = (at: readonly number[] = []): string | null =>
  at.length === 0 ? null : `${at.length} soft ${at.length === 1 ? 'bounce' : 'bounces'}, the last on ${dayText(new Date(Math.max(...at)))}`

/** Everything about one person, their ledger included. */
export async function openPerson(actor: Actor, id: number): Promise<PersonPage> {
  const person = Number.isSafeInteger(id) ? await personRow(db(), id) : undefined
  if (!person) throw new Refused('There is no such person in the directory.', 'not found')
  const asOf = now().getTime()
  const [{ view, record }] = await peoplePage([id])
  const merged: { id: number; name: string }[] = await mergedHere(db(), id)
  const into = person.merged_into ? await personName(db(), person.merged_into) : null
  const whole = [id, ...merged.map((m) => m.id)]
  const addresses = await addressRows(db(), id)
  const states = await statesOf(id)
  const suppressions = await suppressionsOf(db(), whole)
  const lists = await roundsOfPerson(db(), whole, actor.id)
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
        value: a.channel === 'phone' ? phoneText(a.value, settings().ARCH_REGION) : a.value,
        usable: a.usable && own?.failedAt === null,
        why: a.why_unusable ?? (own?.failedAt ? `failed ${dayText(new Date(own.failedAt))}` : softText(own?.softAt)),
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
    mergedHere: merged,
    mergedInto: into ?? null,
    came: await rowsOfPerson(whole),
    ledger: await ledgerOf(actor, 'person_id', whole),
  }
}

/** What checks have shown of somebody's email addresses and calls of their numbers, by the address. */
async function statesOf(person: number): Promise<Map<number, PersonPage['addresses'][number]['state']>> {
  const rows = await addressStates(db(), person)
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
