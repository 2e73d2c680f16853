import type { Metadata } from 'next'
import { AreasScreen } from '@/ui/lists/areas-screen'
import { listAreas } from '@/usecases/lists/areas'
import { actor } from '@/app/requests/auth'
import { areaAway } from '../actions'

export const metadata: Metadata = { title: 'Areas' }

export default async function Page() {
  return <AreasScreen areas={await listAreas(await actor())} putAway={areaAway} />
}
