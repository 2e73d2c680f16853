import type { Metadata } from 'next'
import { actor } from '@/app/requests/auth'
import { pageOf } from '@/app/requests/page-of'
import { MovementScreen } from '@/ui/changes/movement-screen'
import { movementPage } from '@/usecases/changes/movement'

export const metadata: Metadata = { title: 'Movement of people' }

const idIn = (text: string | undefined) => (text !== undefined && /^\d{1,15}$/.test(text) ? Number(text) : null)

export default async function Page({ searchParams }: { searchParams: Promise<Record<string, string | undefined>> }) {
  const { organisation, list, days } = await searchParams
  const page = await pageOf(movementPage(await actor(), { organisation: idIn(organisation), list: idIn(list) }, Number(days ?? 90)))
  return <MovementScreen page={page} />
}
