import type { Metadata } from 'next'
import { ListEditor } from '@/ui/list-editor'
import { peopleBatches } from '@/usecases/batches'
import { mayCoordinate } from '@/usecases/actor'
import { listFor, nameableLists, openList } from '@/usecases/lists'
import { lastRounds, stateOf } from '@/usecases/rounds'
import { listCustomFields } from '@/usecases/custom-fields'
import { knownWords } from '@/usecases/known-words'
import { markLook } from '@/usecases/looks'
import { actor } from '../../../auth'
import { idOf, pageOf } from '../../../page-of'
import { change, copy, remove, saveList, start } from '../actions'

export const metadata: Metadata = { title: 'List' }

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const who = await actor()
  const list = await pageOf(openList(who, idOf((await params).id)))
  const { released, newest } = await lastRounds(list.id)
  const round = newest ? { id: newest.id, number: newest.number, state: stateOf(newest), at: (newest.closed_at ?? newest.released_at ?? newest.started_at).toISOString() } : null
  return (
    <ListEditor
      key={`${list.id}-${list.edition}`}
      lookedAt={(await markLook(who, await listFor(who, list.id)))?.toISOString() ?? null}
      list={list}
      me={{ id: who.id, name: who.name, mayCoordinate: mayCoordinate(who) }}
      round={round}
      hasReleased={released !== null}
      choices={{ batches: await peopleBatches(who), lists: await nameableLists(who, list.id), words: await knownWords(who), customs: await listCustomFields(who) }}
      actions={{ saveList, copy, change, remove, start }}
    />
  )
}
