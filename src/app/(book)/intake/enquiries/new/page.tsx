import type { Metadata } from 'next'
import type { Of } from '@/core/sources/enquiry'
import { EnquiryStart } from '@/ui/sources/enquiry-start'
import { batchFor } from '@/usecases/intake/batch-for'
import { listFor } from '@/usecases/lists/open-list'
import { type Actor, mayCoordinate, Refused } from '@/usecases/team/actor'
import { actor } from '@/app/requests/auth'
import { idOf, pageOf } from '@/app/requests/page-of'
import { check, fill } from '../actions'

export const metadata: Metadata = { title: 'Check and fill' }

async function meant(who: Actor, { list, batch }: { list?: string; batch?: string }): Promise<Of> {
  if (list) return { list: idOf(list), name: (await listFor(who, idOf(list))).name }
  if (!batch) throw new Refused('The request does not say which people it is about. Nothing was changed.', 'not found')
  const found = await batchFor(who, idOf(batch))
  return found.state === 'mapping' ? { file: found.id, name: found.file_name } : { batch: found.id, name: found.file_name }
}

export default async function Page({ searchParams }: { searchParams: Promise<{ list?: string; batch?: string }> }) {
  const who = await actor()
  return <EnquiryStart of={await pageOf(meant(who, await searchParams))} actions={mayCoordinate(who) ? { check, fill } : null} />
}
