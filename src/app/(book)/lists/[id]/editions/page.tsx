import type { Metadata } from 'next'
import { EditionsScreen } from '@/ui/editions-screen'
import { editionIndex } from '@/usecases/compare-editions'
import { goBack } from '../../actions'
import { actor } from '../../../../auth'
import { idOf, pageOf } from '../../../../page-of'

export const metadata: Metadata = { title: 'Editions' }

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const id = idOf((await params).id)
  const { name, subject, editions } = await pageOf(editionIndex(await actor(), id))
  return <EditionsScreen id={id} name={name} subject={subject} editions={editions} goBack={goBack} />
}
