import type { Metadata } from 'next'
import type { Of } from '@/core/sources/enquiry'
import { EnquiryStart } from '@/ui/enquiry-start'
import { batchFor } from '@/usecases/batch-of'
import { listFor } from '@/usecases/lists'
import { type Actor, mayCoordinate, Refused } from '@/usecases/actor'
import { actor } from '../../../../auth'
import { idOf, pageOf } from '../../../../page-of'
import { check, fill } from '../actions'

export const metadata: Metadata = { title: 'Check and fill' }

async function meant(who: Actor, { list, batch }: { list?: string; batch?: string }): Promise<Of> {
  if (list) return { list: idOf(list), name: (await listFor(who, idOf(list))).name }
  if (!batch) throw new Refused('It does not say of whom.', 'not found')
  const found = await batchFor(who, idOf(batch))
  return found.state === 'mapping' ? { file: found.id, name: found.file_name } : { batch: found.id, name: found.file_name }
}

export default async function Page({ searchParams }: { searchParams: Promise<{ list?: string; batch?: string }> }) {
  const who = await actor()
  return <EnquiryStart of={await pageOf(meant(who, await searchParams))} actions={mayCoordinate(who) ? { check, fill } : null} />
}
