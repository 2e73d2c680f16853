import { dearest, type DearestPrices } from '@/core/sources/enquiry'
import { fillingSource } from '@/sources/http-source'
import { type Actor, mustCoordinate } from '@/usecases/team/actor'
import { answering } from './ask-or-refuse'

/** What filling the gaps of one person and checking one address can cost at most. Throws Refused where the source does not answer. */
export async function dearestPrices(actor: Actor): Promise<DearestPrices> {
  mustCoordinate(actor, 'Asking a source')
  const prices = await answering(() => fillingSource.prices())
  return { currency: prices.currency, fill: dearest('fill', prices), check: dearest('check', prices) }
}
