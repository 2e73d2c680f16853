import type { Metadata } from 'next'
import { RoundScreen } from '@/ui/rounds/round-screen'
import { actor } from '@/app/requests/auth'
import { idOf, pageOf } from '@/app/requests/page-of'
import { check } from '@/app/(book)/intake/enquiries/actions'
import {
  changeRules,
  close,
  dropLayout,
  keepLayout,
  onlyNew,
  shareOut,
  unshare,
  pass,
  passAll,
  passAllBack,
  passBack,
  release,
  takePolicyOf,
} from '../actions'
import { openRound } from '@/usecases/rounds/open-round'

export const metadata: Metadata = { title: 'Round' }

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const round = await pageOf(openRound(await actor(), idOf((await params).id)))
  return (
    <RoundScreen
      key={`${round.id}-${round.state}`}
      round={round}
      actions={{
        changeRules,
        release,
        close,
        pass,
        passAll,
        passAllBack,
        passBack,
        takePolicyOf,
        keepLayout,
        dropLayout,
        shareOut,
        unshare,
        onlyNew,
        check,
      }}
    />
  )
}
