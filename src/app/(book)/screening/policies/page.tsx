import type { Metadata } from 'next'
import { actor } from '@/app/requests/auth'
import { PolicyIndex } from '@/ui/screening/policy-index'
import { policyIndex } from '@/usecases/screening/policy-index'
import { mayCoordinate } from '@/usecases/team/actor'
import { make } from './actions'

export const metadata: Metadata = { title: 'Policies' }

export default async function Page() {
  const who = await actor()
  return <PolicyIndex policies={await policyIndex(who)} make={mayCoordinate(who) ? make : null} />
}
