import type { Metadata } from 'next'
import { localDate } from '@/core/calendar/local-day'
import { ProofScreen } from '@/ui/directory/proof-screen'
import { proofOf } from '@/usecases/directory/proof'
import { openPerson } from '@/usecases/directory/open-person'
import { mayCoordinate } from '@/usecases/team/actor'
import { now } from '@/runtime/clock'
import { settings } from '@/runtime/settings'
import { actor } from '@/app/requests/auth'
import { idOf, pageOf } from '@/app/requests/page-of'

export const metadata: Metadata = { title: 'Why contacted' }

export default async function Page({ params, searchParams }: { params: Promise<{ id: string }>; searchParams: Promise<{ day?: string }> }) {
  const who = await actor()
  const id = idOf((await params).id)
  const { view, ledger } = await pageOf(openPerson(who, id))
  const zone = settings().ARCH_ZONE
  const days = [...new Set(ledger.filter((e) => e.kind === 'contact').map((e) => localDate(Date.parse(e.at), zone)))].slice(0, 12)
  const today = localDate(now().getTime(), zone)
  const asked = (await searchParams).day
  const day = typeof asked === 'string' && /^\d{4}-\d\d-\d\d$/.test(asked) && asked <= today ? asked : (days[0] ?? today)
  const proof = await pageOf(proofOf(who, id, day))
  return <ProofScreen id={id} name={view.name} day={day} today={today} days={days} proof={proof} mayDownload={mayCoordinate(who)} />
}
