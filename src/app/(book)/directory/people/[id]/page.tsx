import type { Metadata } from 'next'
import { PersonScreen } from '@/ui/directory/person-screen'
import { mayCoordinate } from '@/usecases/team/actor'
import { openPerson } from '@/usecases/directory/open-person'
import { actor } from '@/app/requests/auth'
import { idOf, pageOf } from '@/app/requests/page-of'
import { act, followOneRecord, report, undecide } from '@/app/(book)/changes/actions'
import { make } from '@/app/(book)/today/actions'
import { WhoKnowsThem } from '@/ui/contact/who-knows'
import { whoKnows } from '@/usecases/contact/who-knows'
import { acquaintTwo, answerTo, askFor, say, takeBackAsked } from '../actions'
import { RecordChangesPart } from '@/ui/changes/record-changes'
import { changesOf } from '@/usecases/changes/changes-of'
import { contact, erase, lift, merge, note, setField, suppressPerson, takeBack } from '../../actions'

export const metadata: Metadata = { title: 'Person' }

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const who = await actor()
  const id = idOf((await params).id)
  const person = await pageOf(openPerson(who, id))
  return (
    <PersonScreen
      person={person}
      mayLift={mayCoordinate(who)}
      actions={{ contact, note, setField, suppressPerson, lift, merge, takeBack, ...(who.post === 'manager' ? { erase } : {}) }}
      changes={
        person.state === 'live' && (
          <>
            <RecordChangesPart
              changes={await changesOf(who, 'person', id)}
              actions={{ report, followRecord: followOneRecord, makeTask: make, act, undecide }}
            />
            <WhoKnowsThem
              knows={await whoKnows(who, id)}
              actions={{ say, acquaint: acquaintTwo, ask: askFor, answer: answerTo, takeBack: takeBackAsked }}
            />
          </>
        )
      }
    />
  )
}
