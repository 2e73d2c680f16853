import type { Metadata } from 'next'
import { AreasScreen } from '@/ui/areas-screen'
import { listAreas } from '@/usecases/areas'
import { actor } from '../../../auth'
import { areaAway } from '../actions'

export const metadata: Metadata = { title: 'Areas' }

export default async function Page() {
  return <AreasScreen areas={await listAreas(await actor())} putAway={areaAway} />
}
