import type { Metadata } from 'next'
import { actor } from '@/app/requests/auth'
import { idOf, pageOf } from '@/app/requests/page-of'
import { LetterResultsScreen } from '@/ui/rounds/letter-results-screen'
import { ResultsScreen } from '@/ui/rounds/results-screen'
import { letterResults } from '@/usecases/rounds/letter-results'
import { roundResults } from '@/usecases/rounds/round-results'
import { subjectOfRound } from '@/usecases/rounds/rounds'
import { close } from '../../actions'

export const metadata: Metadata = { title: 'Results' }

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const id = idOf((await params).id)
  const who = await actor()
  if ((await pageOf(subjectOfRound(who, id))) === 'premises')
    return <LetterResultsScreen page={await pageOf(letterResults(who, id))} close={close} />
  return <ResultsScreen page={await pageOf(roundResults(who, id))} close={close} />
}
