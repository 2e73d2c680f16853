import type { Metadata } from 'next'
import { CompareScreen } from '@/ui/screening/compare-screen'
import { comparisonIndex } from '@/usecases/screening/comparisons'
import { actor } from '@/app/requests/auth'
import { pageOf } from '@/app/requests/page-of'
import { begin, drop } from './actions'

export const metadata: Metadata = { title: 'Compare suppressions' }

export default async function Page() {
  return <CompareScreen first={await pageOf(comparisonIndex(await actor()))} actions={{ begin, drop }} />
}
