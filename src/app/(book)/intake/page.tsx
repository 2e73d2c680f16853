import type { Metadata } from 'next'
import { IntakeIndex } from '@/ui/intake/intake-index'
import { mayCoordinate } from '@/usecases/team/actor'
import { batchIndex } from '@/usecases/intake/batches'
import { actor } from '@/app/requests/auth'

export const metadata: Metadata = { title: 'Intake' }

export default async function Page() {
  const who = await actor()
  return <IntakeIndex batches={await batchIndex(who)} mayBringIn={mayCoordinate(who)} />
}
