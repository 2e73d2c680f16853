import type { Metadata } from 'next'
import { actor } from '@/app/requests/auth'
import { idOf, pageOf } from '@/app/requests/page-of'
import { TrendScreen } from '@/ui/rounds/trend-screen'
import { roundsOfList } from '@/usecases/rounds/rounds-of-list'

export const metadata: Metadata = { title: 'Rounds of a list' }

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  return <TrendScreen page={await pageOf(roundsOfList(await actor(), idOf((await params).id)))} />
}
