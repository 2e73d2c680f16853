import type { Metadata } from 'next'
import { PremisesScreen } from '@/ui/premises-screen'
import { openPremises } from '@/usecases/premises'
import { actor } from '../../../../auth'
import { idOf, pageOf } from '../../../../page-of'

export const metadata: Metadata = { title: 'Premises' }

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const who = await actor()
  return <PremisesScreen premises={await pageOf(openPremises(who, idOf((await params).id)))} />
}
