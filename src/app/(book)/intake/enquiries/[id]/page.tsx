import type { Metadata } from 'next'
import { EnquiryScreen } from '@/ui/sources/enquiry-screen'
import { mayCoordinate } from '@/usecases/team/actor'
import { actor } from '@/app/requests/auth'
import { idOf, pageOf } from '@/app/requests/page-of'
import { asBatch, begin, find, split, stop, want } from '../actions'
import { openEnquiry } from '@/usecases/sources/open-enquiry'

export const metadata: Metadata = { title: 'Enquiry' }

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const who = await actor()
  const enquiry = await pageOf(openEnquiry(who, idOf((await params).id)))
  return <EnquiryScreen first={enquiry} actions={mayCoordinate(who) ? { asBatch, begin, find, split, stop, want } : null} />
}
