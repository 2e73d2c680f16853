import type { Metadata } from 'next'
import { EnquiryIndex } from '@/ui/enquiry-index'
import { mayCoordinate } from '@/usecases/actor'
import { goodForDays } from '@/usecases/check-emails'
import { enquiryIndex } from '@/usecases/enquiries'
import { actor } from '../../../auth'
import { find, goodFor } from './actions'

export const metadata: Metadata = { title: 'Outside sources' }

export default async function Page() {
  const who = await actor()
  return <EnquiryIndex enquiries={await enquiryIndex(who)} days={await goodForDays(who)} actions={mayCoordinate(who) ? { find, goodFor } : null} />
}
