import type { Metadata } from 'next'
import { RoundIndex } from '@/ui/round-index'
import { roundIndex } from '@/usecases/rounds'
import { actor } from '../../auth'

export const metadata: Metadata = { title: 'Rounds' }

export default async function Page() {
  return <RoundIndex rounds={await roundIndex(await actor())} />
}
