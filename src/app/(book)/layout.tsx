import { writing } from '@/runtime/settings'
import { AskingProvider } from '@/ui/book/asking'
import { BookProvider } from '@/ui/book/book'
import { Header } from '@/ui/book/header'
import { listInHand } from '@/usecases/lists/list-in-hand'
import { actor } from '@/app/requests/auth'
import { signOut } from '../sign-in/actions'
import { draft, inHand, listOf, putOn } from './lists/actions'

export const dynamic = 'force-dynamic'

export default async function Layout({ children }: { children: React.ReactNode }) {
  const who = await actor()
  return (
    <AskingProvider>
      <BookProvider hand={await listInHand(who)} writing={writing()} actions={{ inHand, putOn, draft, listOf }}>
        <Header name={who.name} post={who.post} signOut={signOut} />
        {children}
      </BookProvider>
    </AskingProvider>
  )
}
