import type { Metadata } from 'next'
import { PremisesScreen } from '@/ui/directory/premises-screen'
import { actor } from '@/app/requests/auth'
import { idOf, pageOf } from '@/app/requests/page-of'
import { act, followOneRecord, report, undecide } from '@/app/(book)/changes/actions'
import { make } from '@/app/(book)/today/actions'
import { RecordChangesPart } from '@/ui/changes/record-changes'
import { changesOf } from '@/usecases/changes/changes-of'
import { openPremises } from '@/usecases/directory/open-premises'

export const metadata: Metadata = { title: 'Premises' }

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const who = await actor()
  const id = idOf((await params).id)
  return (
    <PremisesScreen
      premises={await pageOf(openPremises(who, id))}
      changes={
        <RecordChangesPart
          changes={await changesOf(who, 'premises', id)}
          actions={{ report, followRecord: followOneRecord, makeTask: make, act, undecide }}
        />
      }
    />
  )
}
