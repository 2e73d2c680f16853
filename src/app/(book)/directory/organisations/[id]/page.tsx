import type { Metadata } from 'next'
import { OrganisationScreen } from '@/ui/directory/organisation-screen'
import { openOrganisation } from '@/usecases/directory/open-organisation'
import { actor } from '@/app/requests/auth'
import { idOf, pageOf } from '@/app/requests/page-of'
import { suppressTarget } from '../../actions'

export const metadata: Metadata = { title: 'Organisation' }

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  return (
    <OrganisationScreen organisation={await pageOf(openOrganisation(await actor(), idOf((await params).id)))} suppress={suppressTarget} />
  )
}
