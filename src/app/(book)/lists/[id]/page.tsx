import { subjectOf } from '@/core/lists/line'
import { columnSets } from '@/usecases/lists/column-sets'
import type { Metadata } from 'next'
import { allows } from '@/core/records/list-roles'
import { changesOfList } from '@/usecases/changes/changes-page'
import { ListEditor } from '@/ui/lists/list-editor'
import { ListPolicy } from '@/ui/screening/list-policy'
import { policyIndex } from '@/usecases/screening/policy-index'
import { fill } from '@/app/(book)/intake/enquiries/actions'
import { choose } from '../../screening/policies/actions'
import { mayCoordinate } from '@/usecases/team/actor'
import { listFor, openList } from '@/usecases/lists/open-list'
import { nameableLists } from '@/usecases/lists/list-index'
import { stateOf } from '@/usecases/rounds/rounds'
import { listCustomFields } from '@/usecases/directory/custom-fields'
import { knownWords } from '@/usecases/lists/known-words'
import { listAreas } from '@/usecases/lists/areas'
import { commentsOn } from '@/usecases/lists/line-comments'
import { proposalsFor } from '@/usecases/lists/proposals'
import { sharingOf } from '@/usecases/lists/share-list'
import { tableOf } from '@/usecases/lists/list-tables'
import { markLook } from '@/usecases/lists/last-looked'
import { territories } from '@/usecases/team/territories'
import { roleWordings } from '@/usecases/lists/role-wordings'
import { team } from '@/usecases/team/team'
import { actor } from '@/app/requests/auth'
import { idOf, pageOf } from '@/app/requests/page-of'
import {
  comment,
  copy,
  dropColumns,
  fold,
  give,
  mark,
  owners,
  picks,
  proposeLines,
  remove,
  rename,
  rhythm,
  onlyFollow,
  openers,
  placement,
  saveColumns,
  saveList,
  settle,
  settleProposal,
  share,
  shelve,
  start,
  table,
  unmark,
} from '../actions'
import { lastRounds } from '@/db/rounds/round-rows'
import { peopleBatches } from '@/usecases/intake/people-batches'

export const metadata: Metadata = { title: 'List' }

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const who = await actor()
  const list = await pageOf(openList(who, idOf((await params).id)))
  const row = await listFor(who, list.id)
  const { released, newest } = await lastRounds(list.id)
  const round = newest
    ? {
        id: newest.id,
        number: newest.number,
        state: stateOf(newest),
        at: (newest.closed_at ?? newest.released_at ?? newest.started_at).toISOString(),
      }
    : null
  const others = await nameableLists(who, list.id)
  return (
    <ListEditor
      key={`${list.id}-${list.edition}`}
      columnSets={await columnSets(who, subjectOf(list.lines))}
      lookedAt={(await markLook(who, row))?.toISOString() ?? null}
      list={list}
      me={{ id: who.id, name: who.name, mayCoordinate: mayCoordinate(who) }}
      round={round}
      hasReleased={released !== null}
      policy={
        <ListPolicy
          list={list.id}
          policy={row.policy_id}
          policies={(await policyIndex(who)).map(({ id, name, isDefault }) => ({ id, name, isDefault }))}
          choose={mayCoordinate(who) && allows(list.role, 'edit') ? choose : null}
        />
      }
      choices={{
        batches: await peopleBatches(who),
        lists: others,
        rounds: [{ id: list.id, name: list.name }, ...others.filter(({ rounds }) => rounds > 0).map(({ id, name }) => ({ id, name }))],
        words: await knownWords(who),
        customs: await listCustomFields(who),
        team: await team(who),
        areas: await listAreas(who),
        territories: (await territories(who)).map(({ id, name }) => ({ id, name })),
        wordings: await roleWordings(who),
      }}
      changes={await changesOfList(who, list.id)}
      table={await tableOf(who, row)}
      sharing={await sharingOf(who, list.id)}
      comments={await commentsOn(who, list.id)}
      proposals={await proposalsFor(who, list.id)}
      actions={{
        saveList,
        saveColumns,
        dropColumns,
        copy,
        rename,
        rhythm,
        onlyFollow,
        openers,
        placement,
        remove,
        start,
        table,
        picks,
        owners,
        fill,
        fold,
        mark,
        unmark,
        shelve,
        share,
        give,
        comment,
        settle,
        propose: proposeLines,
        settleProposal,
      }}
    />
  )
}
