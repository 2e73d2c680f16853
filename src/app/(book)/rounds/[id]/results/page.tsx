import type { Metadata } from 'next'
import { actor } from '@/app/requests/auth'
import { idOf, pageOf } from '@/app/requests/page-of'
import { ResultsScreen } from '@/ui/rounds/results-screen'
import { roundResults } from '@/usecases/rounds/round-results'
import { close } from '../../actions'

export const metadata: Metadata = { title: 'Results' }

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const page = await pageOf(roundResults(await actor(), idOf((await params).id)))
  return <ResultsScreen page={page} close={close} />
}
