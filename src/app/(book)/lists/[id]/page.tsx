import type { Metadata } from 'next'
import { ListEditor } from '@/ui/list-editor'
import { peopleBatches } from '@/usecases/batches'
import { mayCoordinate } from '@/usecases/actor'
import { listFor, nameableLists, openList } from '@/usecases/lists'
import { lastRounds, stateOf } from '@/usecases/rounds'
import { listCustomFields } from '@/usecases/custom-fields'
import { knownWords } from '@/usecases/known-words'
import { listAreas } from '@/usecases/areas'
import { commentsOn } from '@/usecases/line-comments'
import { proposalsFor } from '@/usecases/proposals'
import { sharingOf } from '@/usecases/share-list'
import { tableOf } from '@/usecases/list-tables'
import { markLook } from '@/usecases/looks'
import { roleWordings } from '@/usecases/role-wordings'
import { team } from '@/usecases/team'
import { actor } from '../../../auth'
import { idOf, pageOf } from '../../../page-of'
import { comment, copy, fold, give, mark, owners, picks, proposeLines, remove, rename, saveList, settle, settleProposal, share, shelve, start, table, unmark } from '../actions'

export const metadata: Metadata = { title: 'List' }

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const who = await actor()
  const list = await pageOf(openList(who, idOf((await params).id)))
  const row = await listFor(who, list.id)
  const { released, newest } = await lastRounds(list.id)
  const round = newest ? { id: newest.id, number: newest.number, state: stateOf(newest), at: (newest.closed_at ?? newest.released_at ?? newest.started_at).toISOString() } : null
  return (
    <ListEditor
      key={`${list.id}-${list.edition}`}
      lookedAt={(await markLook(who, row))?.toISOString() ?? null}
      list={list}
      me={{ id: who.id, name: who.name, mayCoordinate: mayCoordinate(who) }}
      round={round}
      hasReleased={released !== null}
      choices={{ batches: await peopleBatches(who), lists: await nameableLists(who, list.id), words: await knownWords(who), customs: await listCustomFields(who), team: await team(who), areas: await listAreas(who), wordings: await roleWordings(who) }}
      table={await tableOf(who, row)}
      sharing={await sharingOf(who, list.id)}
      comments={await commentsOn(who, list.id)}
      proposals={await proposalsFor(who, list.id)}
      actions={{ saveList, copy, rename, remove, start, table, picks, owners, fold, mark, unmark, shelve, share, give, comment, settle, propose: proposeLines, settleProposal }}
    />
  )
}
