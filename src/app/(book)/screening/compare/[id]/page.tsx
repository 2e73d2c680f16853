import type { Metadata } from 'next'
import { SharedScreen } from '@/ui/screening/shared-screen'
import { sharedWith } from '@/usecases/screening/comparisons'
import { actor } from '@/app/requests/auth'
import { idOf, pageOf } from '@/app/requests/page-of'

export const metadata: Metadata = { title: 'Shared suppressions' }

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const id = idOf((await params).id)
  return <SharedScreen id={id} {...(await pageOf(sharedWith(await actor(), id)))} />
}
