import type { Metadata } from 'next'
import { MapSpread } from '@/ui/lists/map-spread'
import { listAreas } from '@/usecases/lists/areas'
import { openList } from '@/usecases/lists/open-list'
import { actor } from '@/app/requests/auth'
import { idOf, pageOf } from '@/app/requests/page-of'
import { draft } from '../../actions'

export const metadata: Metadata = { title: 'Map' }

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const who = await actor()
  const list = await pageOf(openList(who, idOf((await params).id)))
  return <MapSpread list={list} areas={await listAreas(who)} draft={draft} />
}
