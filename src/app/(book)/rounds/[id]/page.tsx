import type { Metadata } from 'next'
import { RoundScreen } from '@/ui/round-screen'
import { openRound } from '@/usecases/screen-round'
import { actor } from '../../../auth'
import { idOf, pageOf } from '../../../page-of'
import { changeRules, close, pass, passBack, release } from '../actions'

export const metadata: Metadata = { title: 'Round' }

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const round = await pageOf(openRound(await actor(), idOf((await params).id)))
  return <RoundScreen key={`${round.id}-${round.state}`} round={round} actions={{ changeRules, release, close, pass, passBack }} />
}
