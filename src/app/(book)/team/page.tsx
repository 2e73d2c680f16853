import type { Metadata } from 'next'
import { TeamScreen } from '@/ui/team/team-screen'
import { actor } from '@/app/requests/auth'
import { add, change, changePassword, newPassword, remove, takeBack } from './actions'
import { teamPage } from '@/usecases/team/team-page'

export const metadata: Metadata = { title: 'Team' }

export default async function Page() {
  return <TeamScreen page={await teamPage(await actor())} actions={{ add, change, newPassword, remove, takeBack, changePassword }} />
}
