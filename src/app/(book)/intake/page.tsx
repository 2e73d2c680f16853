import type { Metadata } from 'next'
import { IntakeIndex } from '@/ui/intake-index'
import { mayCoordinate } from '@/usecases/actor'
import { batchIndex } from '@/usecases/batches'
import { actor } from '../../auth'

export const metadata: Metadata = { title: 'Intake' }

export default async function Page() {
  const who = await actor()
  return <IntakeIndex batches={await batchIndex(who)} mayBringIn={mayCoordinate(who)} />
}
