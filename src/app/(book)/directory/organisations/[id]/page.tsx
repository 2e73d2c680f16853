import type { Metadata } from 'next'
import { OrganisationScreen } from '@/ui/organisation-screen'
import { openOrganisation } from '@/usecases/directory'
import { actor } from '../../../../auth'
import { idOf, pageOf } from '../../../../page-of'
import { suppressTarget } from '../../actions'

export const metadata: Metadata = { title: 'Organisation' }

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  return <OrganisationScreen organisation={await pageOf(openOrganisation(await actor(), idOf((await params).id)))} suppress={suppressTarget} />
}
