import type { Metadata } from 'next'
import { ListIndex } from '@/ui/lists/list-index'
import { listIndex } from '@/usecases/lists/list-index'
import { freshOf } from '@/usecases/lists/last-looked'
import { actor } from '@/app/requests/auth'
import { newList, restore } from './actions'
import { roundIndex } from '@/usecases/rounds/round-index'

export const metadata: Metadata = { title: 'Lists' }

export default async function Page({ searchParams }: { searchParams: Promise<{ deleted?: string }> }) {
  const who = await actor()
  const { deleted = '' } = await searchParams
  const [plain, rounds] = await Promise.all([listIndex(who), roundIndex(who)])
  const fresh = await freshOf(who, plain)
  const lists = plain.map((list) => ({ ...list, now: fresh.get(list.id) }))
  return (
    <ListIndex
      lists={lists}
      rounds={rounds.filter((r) => r.state !== 'closed')}
      newList={newList}
      deleted={/^\d+$/.test(deleted) ? Number(deleted) : null}
      restore={restore}
    />
  )
}
