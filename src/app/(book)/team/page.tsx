import type { Metadata } from 'next'
import { TeamScreen } from '@/ui/team/team-screen'
import { actor } from '@/app/requests/auth'
import { OwnPosts } from '@/ui/contact/own-posts'
import { myPosts } from '@/usecases/contact/own-posts'
import {
  add,
  addOwnPost,
  change,
  changePassword,
  dropTerritory,
  keepTerritory,
  newPassword,
  remove,
  removeOwnPost,
  takeBack,
} from './actions'
import { Territories } from '@/ui/team/territories'
import { mayCoordinate } from '@/usecases/team/actor'
import { territories } from '@/usecases/team/territories'
import { teamPage } from '@/usecases/team/team-page'

export const metadata: Metadata = { title: 'Team' }

export default async function Page() {
  const who = await actor()
  const page = await teamPage(who)
  return (
    <TeamScreen
      page={page}
      actions={{ add, change, newPassword, remove, takeBack, changePassword }}
      territories={
        <Territories
          territories={await territories(who)}
          colleagues={page.colleagues.map(({ id, name }) => ({ id, name }))}
          mayChange={mayCoordinate(who)}
          actions={{ keepTerritory, dropTerritory }}
        />
      }
      own={<OwnPosts posts={await myPosts(who)} actions={{ addPost: addOwnPost, removePost: removeOwnPost }} />}
    />
  )
}
