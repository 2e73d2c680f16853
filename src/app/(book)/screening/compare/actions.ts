'use server'

import { revalidatePath } from 'next/cache'
import { act } from '@/app/requests/answer'
import { ref, typed } from '@/app/requests/asked'
import { beginComparison, dropComparison } from '@/usecases/screening/comparisons'

export async function begin(name: string) {
  const result = await act([typed(200)], [name], beginComparison)
  revalidatePath('/screening/compare')
  return result
}

export async function drop(id: number) {
  const result = await act([ref()], [id], dropComparison)
  revalidatePath('/screening/compare')
  return result
}
