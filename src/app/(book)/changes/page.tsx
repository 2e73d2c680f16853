import type { Metadata } from 'next'
import { actor } from '@/app/requests/auth'
import { pageOf } from '@/app/requests/page-of'
import { ChangesScreen } from '@/ui/changes/changes-screen'
import { changesPage } from '@/usecases/changes/changes-page'
import { act, contact, decide, looked, putOff, undecide } from './actions'

export const metadata: Metadata = { title: 'Changes' }

export default async function Page() {
  const first = await pageOf(changesPage(await actor(), { tab: 'all', list: null, freshness: null, offset: 0 }))
  return <ChangesScreen first={first} actions={{ act, putOff, looked, contact, decide, undecide }} />
}
