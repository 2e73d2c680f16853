import { type PersonRecord, SCREENED, type ScreenedChannel } from '@/core/columns/person-record'
import { cleanPhone } from '@/core/clean/phone'
import { cleanPostal, postalKey } from '@/core/clean/postal'
import { inForce } from '@/core/screening/kind'
import type { Rule } from '@/core/screening/rules'
import { type ChannelVerdict, screenRecord } from '@/core/screening/screen-record'
import { db } from '@/db/connection'
import { suppressedBy } from '@/db/key'
import { now } from '@/runtime/clock'
import { settings } from '@/runtime/settings'
import { evidenceTexts } from '@/usecases/screening/evidence'
import { momentNow } from '@/usecases/screening/screening-now'

export const STATUS: Record<ScreenedChannel, string> = { email: 'Email is', phone: 'Phone is', post: 'Post is' }

/** What an address reads as and how it stands: one that is closed is left out unless it is asked for. */
export interface Told {
  status: string
  shown: boolean
}

/** How each channel of some people stands whatever the round, with the reason in words. */
export async function standings(
  records: PersonRecord[],
  rules: Rule[],
): Promise<Map<number, Record<ScreenedChannel, ChannelVerdict & { text: string }>>> {
  const moment = momentNow()
  const verdicts = records.map((record) => screenRecord(record, rules, moment).channels)
  const texts = await evidenceTexts(
    verdicts.flatMap((of) =>
      SCREENED.map((channel) => (of[channel].open || of[channel].evidence.kind === 'no-address' ? null : of[channel].evidence)),
    ),
  )
  return new Map(
    records.map((record, i) => [
      record.id,
      Object.fromEntries(
        SCREENED.map((channel, j) => {
          const verdict = verdicts[i][channel]
          // Nothing can be sent without an address, yet the person may be closed all the same: an address of their organisation is not theirs to use then.
          const whole =
            verdict.open || verdict.evidence.kind !== 'no-address'
              ? undefined
              : record.suppressions.find((s) => s.channels.includes(channel) && inForce(s, moment.asOf))
          return [
            channel,
            {
              ...verdict,
              text: verdict.open
                ? 'open'
                : whole
                  ? 'closed: suppressed'
                  : verdict.evidence.kind === 'no-address'
                    ? verdict.evidence.unusable
                      ? 'unusable'
                      : 'none'
                    : `closed: ${texts[i * SCREENED.length + j]}`,
            },
          ]
        }),
      ) as Record<ScreenedChannel, ChannelVerdict & { text: string }>,
    ]),
  )
}

type Place = { street: string | null; town: string | null; postcode: string | null }

/** Of some postal addresses, which are suppressed by their own key. */
export async function closedPlaces(places: Place[]): Promise<boolean[]> {
  const keys = places.map((place) =>
    postalKey(cleanPostal(place as never)) === null ? [] : suppressedBy({ postal: cleanPostal(place as never) }).map(({ key }) => key),
  )
  const held = await heldKeys(keys.flat())
  return keys.map((own) => own.some((key) => held.has(key.toString('hex'))))
}

/** Of some numbers, which are suppressed by their own key. */
export async function closedNumbers(numbers: (string | null)[]): Promise<boolean[]> {
  const keys = numbers.map((number) => {
    const phone = number === null ? null : cleanPhone(number, settings().ARCH_REGION)
    return phone?.usable ? suppressedBy({ phone: phone.normal }).map(({ key }) => key) : []
  })
  const held = await heldKeys(keys.flat())
  return keys.map((own) => own.some((key) => held.has(key.toString('hex'))))
}

async function heldKeys(keys: Buffer[]): Promise<Set<string>> {
  if (keys.length === 0) return new Set()
  const at = now()
  const { rows } = await db().raw(
    `select distinct encode(k.key, 'hex') as key from suppression_key k join suppression_standing s on s.id = k.suppression_id where k.key = any(?::bytea[]) and s.scope <> 'person' and s.since <= ? and (s.until is null or s.until > ?)`,
    [keys, at, at] as never,
  )
  return new Set(rows.map((row: { key: string }) => row.key))
}

/** Which channels of some organisations are suppressed as a whole, by id or by name. */
export async function heldOrganisations(ids: number[]): Promise<Map<number, string[]>> {
  const at = now()
  const { rows } = await db().raw(
    `select o.id, s.channels from organisation o join suppression_standing s on s.organisation_id = o.id or s.id in (select k.suppression_id from suppression_key k where k.key = o.key)
     where o.id = any(?::bigint[]) and s.scope = 'organisation' and s.since <= ? and (s.until is null or s.until > ?)`,
    [ids, at, at] as never,
  )
  const map = new Map<number, string[]>()
  for (const { id, channels } of rows) map.set(id, [...(map.get(id) ?? []), ...channels])
  return map
}
