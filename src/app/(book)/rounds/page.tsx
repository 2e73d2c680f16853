import type { Metadata } from 'next'
import { RoundIndex } from '@/ui/rounds/round-index'
import { roundIndex } from '@/usecases/rounds/rounds'
import { actor } from '@/app/requests/auth'

export const metadata: Metadata = { title: 'Rounds' }

export default async function Page() {
  return <RoundIndex rounds={await roundIndex(await actor())} />
}
