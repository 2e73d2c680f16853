import type { Metadata } from 'next'
import { AuditScreen } from '@/ui/screening/audit-screen'
import { audit } from '@/usecases/screening/audit'
import { actor } from '@/app/requests/auth'
import { pageOf } from '@/app/requests/page-of'
import { carried, carriedBack } from './actions'

export const metadata: Metadata = { title: 'Audit' }

export default async function Page({ searchParams }: { searchParams: Promise<{ days?: string }> }) {
  const who = await actor()
  return <AuditScreen audit={await pageOf(audit(who, Number((await searchParams).days ?? 30)))} actions={{ carried, carriedBack }} />
}
