import type { Metadata } from 'next'
import { ListIndex } from '@/ui/lists/list-index'
import { listIndex } from '@/usecases/lists/list-index'
import { freshOf } from '@/usecases/lists/last-looked'
import { actor } from '@/app/requests/auth'
import { newList, restore } from './actions'
import { firstSteps } from '@/usecases/work/first-steps'
import { roundIndex } from '@/usecases/rounds/round-index'

export const metadata: Metadata = { title: 'Lists' }

export default async function Page({ searchParams }: { searchParams: Promise<{ deleted?: string }> }) {
  const who = await actor()
  const { deleted = '' } = await searchParams
  const [plain, rounds, steps] = await Promise.all([listIndex(who), roundIndex(who), firstSteps(who)])
  const fresh = await freshOf(who, plain)
  const lists = plain.map((list) => ({ ...list, now: fresh.get(list.id) }))
  return (
    <ListIndex
      lists={lists}
      rounds={rounds.filter((r) => r.state !== 'closed')}
      newList={newList}
      steps={steps}
      deleted={/^\d+$/.test(deleted) ? Number(deleted) : null}
      restore={restore}
    />
  )
}
