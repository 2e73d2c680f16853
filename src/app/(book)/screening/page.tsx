import { settings } from '@/runtime/settings'
import { localDate } from '@/core/calendar/local-day'
import type { Metadata } from 'next'
import { ScreeningScreen } from '@/ui/screening/screening-screen'
import { mayCoordinate } from '@/usecases/team/actor'
import { suppressionIndex } from '@/usecases/screening/suppression-index'
import { now } from '@/runtime/clock'
import { actor } from '@/app/requests/auth'
import { lift, liftNoLongerRegistered, shareOfLifts, suppressLines, suppressTarget, takeLiftBack } from '../directory/actions'

export const metadata: Metadata = { title: 'Screening' }

export default async function Page() {
  const who = await actor()
  return (
    <ScreeningScreen
      first={await suppressionIndex(who)}
      today={localDate(now().getTime(), settings().ARCH_ZONE)}
      mayLift={mayCoordinate(who)}
      suppress={suppressTarget}
      suppressLines={suppressLines}
      lift={lift}
      liftGone={liftNoLongerRegistered}
      takeLiftBack={takeLiftBack}
      setShare={shareOfLifts}
    />
  )
}
