import type { Metadata } from 'next'
import { FitScreen } from '@/ui/rounds/fit-screen'
import { actor } from '@/app/requests/auth'
import { idOf, pageOf } from '@/app/requests/page-of'
import { drawSample, endCheck, judge, tighten, unjudge } from '../../actions'
import { fitPage } from '@/usecases/rounds/fit-page'

export const metadata: Metadata = { title: 'Fit check' }

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const page = await pageOf(fitPage(await actor(), idOf((await params).id)))
  return <FitScreen first={page} actions={{ drawSample, judge, unjudge, endCheck, tighten }} />
}
