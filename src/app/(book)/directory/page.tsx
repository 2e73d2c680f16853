import type { Metadata } from 'next'
import { DirectoryScreen } from '@/ui/directory/directory-screen'
import { actor } from '@/app/requests/auth'

export const metadata: Metadata = { title: 'Directory' }

export default async function Page({ searchParams }: { searchParams: Promise<{ find?: string; show?: string }> }) {
  await actor()
  const { find = '', show } = await searchParams
  return <DirectoryScreen key={find} find={find} show={show === 'organisations' || show === 'premises' ? show : 'people'} />
}
