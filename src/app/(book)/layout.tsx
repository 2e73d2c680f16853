import { Header } from '@/ui/header'
import { actor } from '../auth'
import { signOut } from '../sign-in/actions'

export const dynamic = 'force-dynamic'

export default async function Layout({ children }: { children: React.ReactNode }) {
  const { name, post } = await actor()
  return (
    <>
      <Header name={name} post={post} signOut={signOut} />
      {children}
    </>
  )
}
