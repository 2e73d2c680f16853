import type { Metadata } from 'next'
import { ListIndex } from '@/ui/list-index'
import { listIndex } from '@/usecases/lists'
import { roundIndex } from '@/usecases/rounds'
import { actor } from '../../auth'
import { newList, restore } from './actions'

export const metadata: Metadata = { title: 'Lists' }

export default async function Page({ searchParams }: { searchParams: Promise<{ deleted?: string }> }) {
  const who = await actor()
  const { deleted = '' } = await searchParams
  const [lists, rounds] = await Promise.all([listIndex(who), roundIndex(who)])
  return <ListIndex lists={lists} rounds={rounds.filter((r) => r.state !== 'closed')} newList={newList} deleted={/^\d+$/.test(deleted) ? Number(deleted) : null} restore={restore} />
}
