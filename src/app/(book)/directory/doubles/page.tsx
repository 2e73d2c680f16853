import type { Metadata } from 'next'
import { DoublesScreen } from '@/ui/doubles-screen'
import { mayCoordinate } from '@/usecases/actor'
import { doublesPage } from '@/usecases/doubles'
import { actor } from '../../../auth'
import { decide, lookForDoubles, reopen, takeBack } from '../actions'

export const metadata: Metadata = { title: 'Doubles' }

export default async function Page() {
  const who = await actor()
  return <DoublesScreen first={await doublesPage(who)} actions={mayCoordinate(who) ? { lookForDoubles, decide, reopen, takeBack } : null} />
}
