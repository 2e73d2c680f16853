import type { Metadata } from 'next'
import { RoundIndex } from '@/ui/rounds/round-index'
import { actor } from '@/app/requests/auth'
import { roundIndex } from '@/usecases/rounds/round-index'

export const metadata: Metadata = { title: 'Rounds' }

export default async function Page() {
  return <RoundIndex rounds={await roundIndex(await actor())} />
}
