import type { Metadata } from 'next'
import { localDate } from '@/core/calendar/local-day'
import { now } from '@/runtime/clock'
import { settings } from '@/runtime/settings'
import { PremisesRoundScreen } from '@/ui/rounds/premises-round-screen'
import { RoundScreen } from '@/ui/rounds/round-screen'
import { actor } from '@/app/requests/auth'
import { idOf, pageOf } from '@/app/requests/page-of'
import { check } from '@/app/(book)/intake/enquiries/actions'
import {
  changeRules,
  choose,
  close,
  dropLayout,
  heard,
  keepLayout,
  onlyNew,
  shareOut,
  unshare,
  pass,
  passAll,
  passAllBack,
  passBack,
  posted,
  release,
  releaseLetters,
  steps,
  supplement,
  takePolicyOf,
  unposted,
} from '../actions'
import { openPremisesRound } from '@/usecases/rounds/open-premises-round'
import { subjectOfRound } from '@/usecases/rounds/rounds'
import { openRound } from '@/usecases/rounds/open-round'

export const metadata: Metadata = { title: 'Round' }

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const id = idOf((await params).id)
  const who = await actor()
  if ((await pageOf(subjectOfRound(who, id))) === 'premises') {
    const letters = await pageOf(openPremisesRound(who, id))
    return (
      <PremisesRoundScreen
        key={`${letters.id}-${letters.state}`}
        round={letters}
        today={localDate(now().getTime(), settings().ARCH_ZONE)}
        actions={{ choose, releaseLetters, posted, unposted, heard, close }}
      />
    )
  }
  const round = await pageOf(openRound(who, id))
  return (
    <RoundScreen
      key={`${round.id}-${round.state}`}
      round={round}
      actions={{
        changeRules,
        release,
        close,
        supplement,
        steps,
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
