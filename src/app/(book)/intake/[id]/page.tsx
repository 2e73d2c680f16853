import type { Metadata } from 'next'
import { BatchScreen } from '@/ui/intake/batch-screen'
import { mayCoordinate } from '@/usecases/team/actor'
import { actor } from '@/app/requests/auth'
import { idOf, pageOf } from '@/app/requests/page-of'
import { bringIn, declare, dropMapping, readAnew, saveMapping, settle, startAgain, tryOut, undo } from '../actions'
import { batchAccount } from '@/usecases/intake/batch-account'

export const metadata: Metadata = { title: 'Batch' }

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const who = await actor()
  const account = await pageOf(batchAccount(who, idOf((await params).id)))
  return (
    <BatchScreen
      first={account}
      mapping={{ bringIn, readAnew, tryOut, declare, saveMapping, dropMapping }}
      settle={mayCoordinate(who) ? settle : null}
      undo={mayCoordinate(who) ? undo : null}
      startAgain={mayCoordinate(who) ? startAgain : null}
    />
  )
}
