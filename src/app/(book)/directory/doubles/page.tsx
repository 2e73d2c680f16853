import type { Metadata } from 'next'
import { DoublesScreen } from '@/ui/directory/duplicates-screen'
import { mayCoordinate } from '@/usecases/team/actor'
import { doublesPage } from '@/usecases/directory/possible-duplicates'
import { actor } from '@/app/requests/auth'
import { decide, lookForDoubles, reopen, takeBack } from '../actions'

export const metadata: Metadata = { title: 'Duplicates' }

export default async function Page() {
  const who = await actor()
  return <DoublesScreen first={await doublesPage(who)} actions={mayCoordinate(who) ? { lookForDoubles, decide, reopen, takeBack } : null} />
}
