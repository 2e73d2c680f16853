import type { Metadata } from 'next'
import { redirect } from 'next/navigation'
import { actor } from '@/app/requests/auth'
import { pageOf } from '@/app/requests/page-of'
import { TodayScreen } from '@/ui/team/today-screen'
import { todayPage } from '@/usecases/team/today'
import { firstSteps } from '@/usecases/work/first-steps'
import { done, hand, make, move, want } from './actions'

export const metadata: Metadata = { title: 'Today' }

export default async function Page() {
  const who = await actor()
  // A book that was just opened begins with the first steps, which stand where the lists will.
  if (await firstSteps(who)) redirect('/lists')
  return <TodayScreen page={await pageOf(todayPage(who))} actions={{ make, done, hand, move, want }} />
}
