import type { Metadata } from 'next'
import { notFound, redirect } from 'next/navigation'
import { check } from '@/app/(book)/intake/enquiries/actions'
import { RequalifyScreen } from '@/ui/rounds/requalify-screen'
import { allows } from '@/core/records/list-roles'
import { mayCoordinate } from '@/usecases/team/actor'
import { openList } from '@/usecases/lists/open-list'
import { actor } from '@/app/requests/auth'
import { idOf, pageOf } from '@/app/requests/page-of'
import { start } from '../../actions'
import { subjectOfRound } from '@/usecases/rounds/rounds'
import { lastRounds } from '@/db/rounds/round-rows'

export const metadata: Metadata = { title: 'Requalify' }

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const who = await actor()
  const list = await pageOf(openList(who, idOf((await params).id)))
  const { released, newest } = await lastRounds(list.id)
  if (!released || !newest) notFound()
  // A round of premises tells on its own page who joined and left.
  if ((await subjectOfRound(who, newest.id)) !== 'person') redirect(`/rounds/${newest.id}`)
  return (
    <RequalifyScreen
      listId={list.id}
      list={list.name}
      building={newest.released_at ? null : { id: newest.id, number: newest.number }}
      next={newest.released_at ? newest.number + 1 : newest.number}
      mayStart={mayCoordinate(who) && allows(list.role, 'use')}
      start={start}
      check={check}
    />
  )
}
