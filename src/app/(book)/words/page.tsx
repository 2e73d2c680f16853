import type { Metadata } from 'next'
import { actor } from '@/app/requests/auth'
import { Glossary } from '@/ui/book/glossary'

export const metadata: Metadata = { title: 'Words' }

export default async function WordsPage() {
  await actor()
  return <Glossary />
}
