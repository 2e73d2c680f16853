import type { Metadata } from 'next'
import { BatchScreen } from '@/ui/batch-screen'
import { batchAccount } from '@/usecases/batches'
import { actor } from '../../../auth'
import { idOf, pageOf } from '../../../page-of'
import { bringIn } from '../actions'

export const metadata: Metadata = { title: 'Batch' }

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const account = await pageOf(batchAccount(await actor(), idOf((await params).id)))
  return <BatchScreen first={account} bringIn={bringIn} />
}
