import type { Metadata } from 'next'
import { EnquiryIndex } from '@/ui/sources/enquiry-index'
import { mayCoordinate } from '@/usecases/team/actor'
import { actor } from '@/app/requests/auth'
import { find, goodFor } from './actions'
import { numberSetting } from '@/db/team/settings'
import { enquiryIndex } from '@/usecases/sources/enquiry-index'

export const metadata: Metadata = { title: 'Outside sources' }

export default async function Page() {
  const who = await actor()
  return (
    <EnquiryIndex
      enquiries={await enquiryIndex(who)}
      days={await numberSetting('email-check-good-for')}
      actions={mayCoordinate(who) ? { find, goodFor } : null}
    />
  )
}
