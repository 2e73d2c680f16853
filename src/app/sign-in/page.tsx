import type { Metadata } from 'next'
import { redirect } from 'next/navigation'
import { Mark } from '@/ui/book/mark'
import { actorOrNull } from '@/app/requests/auth'
import { SignInForm } from './form'
import { demoMembers } from '@/db/team/demo-members'

export const dynamic = 'force-dynamic'
export const metadata: Metadata = { title: 'Sign in' }

export default async function Page() {
  if (await actorOrNull()) redirect('/today')
  return (
    <main className="mx-auto grid max-w-[380px] gap-6 px-6 pt-[12vh] pb-12">
      <div className="flex items-center gap-3">
        <Mark size={34} />
        <h1>Arch Ledger</h1>
      </div>
      <p className="text-soft">Who is on the list and why, who must not be contacted and why, and what has changed since the last time.</p>
      <SignInForm demo={await demoMembers()} />
    </main>
  )
}
