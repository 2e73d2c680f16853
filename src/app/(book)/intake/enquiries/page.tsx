import type { Metadata } from 'next'
import { EnquiryIndex } from '@/ui/enquiry-index'
import { mayCoordinate } from '@/usecases/actor'
import { numberSetting } from '@/usecases/number-settings'
import { enquiryIndex } from '@/usecases/enquiries'
import { actor } from '../../../auth'
import { find, goodFor } from './actions'

export const metadata: Metadata = { title: 'Outside sources' }

export default async function Page() {
  const who = await actor()
  return <EnquiryIndex enquiries={await enquiryIndex(who)} days={await numberSetting('email-check-good-for')} actions={mayCoordinate(who) ? { find, goodFor } : null} />
}
