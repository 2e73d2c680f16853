import type { Metadata } from 'next'
import { ProfileScreen } from '@/ui/profile-screen'
import { nameableLists, openList } from '@/usecases/lists'
import { actor } from '../../../../auth'
import { idOf, pageOf } from '../../../../page-of'
import { newListOf } from '../../actions'

export const metadata: Metadata = { title: 'Profile' }

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const who = await actor()
  const list = await pageOf(openList(who, idOf((await params).id)))
  return <ProfileScreen list={list} lists={await nameableLists(who, list.id)} newListOf={newListOf} />
}
