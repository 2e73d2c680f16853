import type { Metadata } from 'next'
import { PersonScreen } from '@/ui/person-screen'
import { mayCoordinate } from '@/usecases/actor'
import { openPerson } from '@/usecases/directory'
import { actor } from '../../../../auth'
import { idOf, pageOf } from '../../../../page-of'
import { contact, lift, merge, note, setField, suppressPerson, takeBack } from '../../actions'

export const metadata: Metadata = { title: 'Person' }

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const who = await actor()
  const person = await pageOf(openPerson(who, idOf((await params).id)))
  return <PersonScreen person={person} mayLift={mayCoordinate(who)} actions={{ contact, note, setField, suppressPerson, lift, merge, takeBack }} />
}
