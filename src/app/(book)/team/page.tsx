import type { Metadata } from 'next'
import { TeamScreen } from '@/ui/team/team-screen'
import { actor } from '@/app/requests/auth'
import { OwnPosts } from '@/ui/contact/own-posts'
import { myPosts } from '@/usecases/contact/own-posts'
import { add, addOwnPost, change, changePassword, newPassword, remove, removeOwnPost, takeBack } from './actions'
import { teamPage } from '@/usecases/team/team-page'

export const metadata: Metadata = { title: 'Team' }

export default async function Page() {
  const who = await actor()
  return (
    <TeamScreen
      page={await teamPage(who)}
      actions={{ add, change, newPassword, remove, takeBack, changePassword }}
      own={<OwnPosts posts={await myPosts(who)} actions={{ addPost: addOwnPost, removePost: removeOwnPost }} />}
    />
  )
}
