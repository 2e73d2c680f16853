import type { Metadata } from 'next'
import { actor } from '@/app/requests/auth'
import { pageOf } from '@/app/requests/page-of'
import { FollowingScreen } from '@/ui/changes/following-screen'
import { following } from '@/usecases/changes/following'
import { mayCoordinate } from '@/usecases/team/actor'
import { archiveOneKind, followOneList, followOneRecord, muteOneKind, reach, readFeeds, saveOneKind } from '../actions'

export const metadata: Metadata = { title: 'What you follow' }

export default async function Page() {
  const who = await actor()
  return (
    <FollowingScreen
      view={await pageOf(following(who))}
      maySet={mayCoordinate(who)}
      actions={{
        followList: followOneList,
        followRecord: followOneRecord,
        muteKind: muteOneKind,
        saveKind: saveOneKind,
        archiveKind: archiveOneKind,
        reach,
        readFeeds,
      }}
    />
  )
}
