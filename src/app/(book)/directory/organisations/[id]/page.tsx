import type { Metadata } from 'next'
import { OrganisationScreen } from '@/ui/directory/organisation-screen'
import { openOrganisation } from '@/usecases/directory/open-organisation'
import { actor } from '@/app/requests/auth'
import { idOf, pageOf } from '@/app/requests/page-of'
import { act, followOneRecord, report, undecide } from '@/app/(book)/changes/actions'
import { make } from '@/app/(book)/today/actions'
import { RecordChangesPart } from '@/ui/changes/record-changes'
import { changesOf } from '@/usecases/changes/changes-of'
import { suppressTarget } from '../../actions'

export const metadata: Metadata = { title: 'Organisation' }

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const who = await actor()
  const id = idOf((await params).id)
  return (
    <OrganisationScreen
      organisation={await pageOf(openOrganisation(who, id))}
      suppress={suppressTarget}
      changes={
        <RecordChangesPart
          changes={await changesOf(who, 'organisation', id)}
          actions={{ report, followRecord: followOneRecord, makeTask: make, act, undecide }}
        />
      }
    />
  )
}
