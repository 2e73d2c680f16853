import type { Metadata } from 'next'
import { actor } from '@/app/requests/auth'
import { idOf, pageOf } from '@/app/requests/page-of'
import { LetterScreen } from '@/ui/rounds/letter-screen'
import { letterPage } from '@/usecases/rounds/letter-page'
import { pauseEmails, resumeEmails, saveLetter, sendEmails, tryLetter } from '../../actions'

export const metadata: Metadata = { title: 'Email' }

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const page = await pageOf(letterPage(await actor(), idOf((await params).id)))
  return <LetterScreen page={page} actions={{ saveLetter, tryLetter, sendEmails, pauseEmails, resumeEmails }} />
}
