import type { Metadata } from 'next'
import { PremisesScreen } from '@/ui/directory/premises-screen'
import { actor } from '@/app/requests/auth'
import { idOf, pageOf } from '@/app/requests/page-of'
import { openPremises } from '@/usecases/directory/open-premises'

export const metadata: Metadata = { title: 'Premises' }

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const who = await actor()
  return <PremisesScreen premises={await pageOf(openPremises(who, idOf((await params).id)))} />
}
