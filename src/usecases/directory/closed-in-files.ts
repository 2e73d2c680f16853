import type { PersonRecord } from '@/core/records/person-record'
import { cleanPhone } from '@/core/clean/phone'
import { cleanPostal, postalKey } from '@/core/clean/postal'
import { inForce } from '@/core/screening/kind'
import type { Rule } from '@/core/screening/rules'
import { type ChannelVerdict, screenRecord } from '@/core/screening/screen-record'
import { suppressedBy } from '@/db/key'
import { settings } from '@/runtime/settings'
import { evidenceTexts } from '@/usecases/screening/evidence'
import { momentNow } from '@/usecases/screening/screening-now'
import { heldKeys } from '@/db/screening/held'
import { CHANNELS, type Channel } from '@/core/records/channels'

export const STATUS: Record<Channel, string> = { email: 'Email is', phone: 'Phone is', post: 'Post is', direct: 'Direct message is' }

/** What an address reads as and how it stands: one that is closed is left out unless it is asked for. */
export interface Told {
  status: string
  shown: boolean
}

/** How each channel of some people stands whatever the round, with the reason in words. */
export async function standings(
  records: PersonRecord[],
  rules: Rule[],
): Promise<Map<number, Record<Channel, ChannelVerdict & { text: string }>>> {
  const moment = momentNow()
  const verdicts = records.map((record) => screenRecord(record, rules, moment).channels)
  const texts = await evidenceTexts(
    verdicts.flatMap((of) =>
      CHANNELS.map((channel) => (of[channel].open || of[channel].evidence.kind === 'no-address' ? null : of[channel].evidence)),
    ),
  )
  return new Map(
    records.map((record, i) => [
      record.id,
      Object.fromEntries(
        CHANNELS.map((channel, j) => {
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
                    : `closed: ${texts[i * CHANNELS.length + j]}`,
            },
          ]
        }),
      ) as Record<Channel, ChannelVerdict & { text: string }>,
    ]),
  )
}

type Place = { street: string | null; town: string | null; postcode: string | null }

/** Of some postal addresses, which are suppressed for letters by their own key, or with the household there. */
export async function closedPlaces(places: Place[]): Promise<boolean[]> {
  const keys = places.map((place) =>
    postalKey(cleanPostal(place as never)) === null ? [] : suppressedBy({ postal: cleanPostal(place as never) }).map(({ key }) => key),
  )
  const held = await heldKeys(keys.flat(), 'post')
  return keys.map((own) => own.some((key) => held.has(key.toString('hex'))))
}

/** Of some numbers, which are suppressed for calls by their own key. */
export async function closedNumbers(numbers: (string | null)[]): Promise<boolean[]> {
  const keys = numbers.map((number) => {
    const phone = number === null ? null : cleanPhone(number, settings().ARCH_REGION)
    return phone?.usable ? suppressedBy({ phone: phone.normal }).map(({ key }) => key) : []
  })
  const held = await heldKeys(keys.flat(), 'phone')
  return keys.map((own) => own.some((key) => held.has(key.toString('hex'))))
}
