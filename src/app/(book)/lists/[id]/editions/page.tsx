import type { Metadata } from 'next'
import { EditionsScreen } from '@/ui/lists/editions-screen'
import { editionIndex } from '@/usecases/lists/compare-editions'
import { goBack } from '../../actions'
import { actor } from '@/app/requests/auth'
import { idOf, pageOf } from '@/app/requests/page-of'

export const metadata: Metadata = { title: 'Editions' }

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const id = idOf((await params).id)
  const { name, subject, editions } = await pageOf(editionIndex(await actor(), id))
  return <EditionsScreen id={id} name={name} subject={subject} editions={editions} goBack={goBack} />
}
