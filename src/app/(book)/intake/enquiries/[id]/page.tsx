import type { Metadata } from 'next'
import { EnquiryScreen } from '@/ui/sources/enquiry-screen'
import { mayCoordinate } from '@/usecases/team/actor'
import { actor } from '@/app/requests/auth'
import { idOf, pageOf } from '@/app/requests/page-of'
import { asBatch, begin, buyFor, find, split, stop, want } from '../actions'
import type { SearchedName } from '@/core/sources/source'
import { nameableLists } from '@/usecases/lists/list-index'
import { TRIED_ON } from '@/usecases/sources/try-on-list'
import { openEnquiry } from '@/usecases/sources/open-enquiry'

export const metadata: Metadata = { title: 'Enquiry' }

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const who = await actor()
  const enquiry = await pageOf(openEnquiry(who, idOf((await params).id)))
  const subjects = enquiry.kind === 'find' ? TRIED_ON[enquiry.source as SearchedName] : []
  const lists = (await nameableLists(who, 0)).filter((list) => subjects.includes(list.subject)).map(({ id, name }) => ({ id, name }))
  return (
    <EnquiryScreen
      first={enquiry}
      lists={lists}
      actions={mayCoordinate(who) ? { asBatch, begin, buyFor, find, split, stop, want } : null}
    />
  )
}
