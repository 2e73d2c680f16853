import type { Metadata } from 'next'
import { actor } from '@/app/requests/auth'
import { idOf, pageOf } from '@/app/requests/page-of'
import { PolicyScreen } from '@/ui/screening/policy-screen'
import { openPolicy } from '@/usecases/screening/open-policy'
import { mayCoordinate } from '@/usecases/team/actor'
import { archive, makeDefault, rename, save } from '../actions'

export const metadata: Metadata = { title: 'Policy' }

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const who = await actor()
  const policy = await pageOf(openPolicy(who, idOf((await params).id)))
  return (
    <PolicyScreen
      key={`${policy.id}-${policy.editions[0].number}`}
      policy={policy}
      actions={mayCoordinate(who) ? { archive, makeDefault, rename, save } : null}
    />
  )
}
