import { cleanDirect } from '@/core/clean/direct'
import { cleanEmail } from '@/core/clean/email'
import { cleanPhone } from '@/core/clean/phone'
import { cleanPostal } from '@/core/clean/postal'
import { cellsToClean } from '@/core/match/file-locale'
import type { Batch } from '@/core/views/intake-views'
import { db } from '@/db/connection'
import { type AddressKeys, keysOf } from '@/db/key'
import { now } from '@/runtime/clock'
import { settings } from '@/runtime/settings'
import { reasonsByKey } from '@/db/screening/held'
import { type Reason, REASON_NAME } from '@/core/records/suppression'

/** Of each of some rows as they came which of its addresses a suppression closes now, in words; nothing where none is. */
export async function closedCells(batch: Batch, rows: readonly string[][]): Promise<string[]> {
  const region = settings().ARCH_REGION
  const held = rows.map((raw) => {
    const cells = cellsToClean(batch, raw, [])
    const cell = (field: string) => cells[batch.mapping.indexOf(field)] ?? ''
    const addresses: { said: string; keys: AddressKeys }[] = []
    for (const field of ['email', 'email2']) {
      const email = cleanEmail(cell(field))
      if (email?.usable) addresses.push({ said: email.normal, keys: keysOf({ email: email.normal }) })
    }
    for (const field of ['phone', 'phone2']) {
      const phone = cleanPhone(cell(field), region)
      if (phone?.usable) addresses.push({ said: phone.normal, keys: keysOf({ phone: phone.normal }) })
    }
    const direct = cleanDirect(cell('direct'))
    if (direct?.usable) addresses.push({ said: direct.value, keys: keysOf({ direct: direct.normal }) })
    if (cell('street') !== '')
      addresses.push({
        said: 'the postal address',
        keys: keysOf({ postal: cleanPostal({ street: cell('street'), town: cell('town'), postcode: cell('postcode') }) }),
      })
    return addresses.map(({ said, keys }) => ({
      said,
      keys: [keys.key, keys.domain_key, keys.post_key, keys.post_key_3].filter((key) => key !== null),
    }))
  })
  const at = now()
  const found = await reasonsByKey(
    db(),
    held.flat().flatMap(({ keys }) => keys),
    at,
  )
  const reasons = new Map<string, Reason>(found.map((row: { key: string; reason: Reason }) => [row.key, row.reason]))
  return held.map((addresses) =>
    addresses
      .flatMap(({ said, keys }) => {
        const reason = keys.map((key) => reasons.get(key.toString('hex'))).find((r) => r !== undefined)
        return reason ? [`${said}: ${REASON_NAME[reason]}`] : []
      })
      .join('; '),
  )
}
