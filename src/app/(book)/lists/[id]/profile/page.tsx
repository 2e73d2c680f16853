import type { Metadata } from 'next'
import { ProfileScreen } from '@/ui/lists/profile-screen'
import { nameableLists } from '@/usecases/lists/list-index'
import { openList } from '@/usecases/lists/open-list'
import { actor } from '@/app/requests/auth'
import { idOf, pageOf } from '@/app/requests/page-of'
import { newListOf } from '../../actions'

export const metadata: Metadata = { title: 'Profile' }

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const who = await actor()
  const list = await pageOf(openList(who, idOf((await params).id)))
  return <ProfileScreen list={list} lists={await nameableLists(who, list.id)} newListOf={newListOf} />
}
