'use server'

import { revalidatePath } from 'next/cache'
import { act } from '@/app/requests/answer'
import { free, ref, typed } from '@/app/requests/asked'
import { archivePolicy } from '@/usecases/screening/archive-policy'
import { choosePolicy } from '@/usecases/screening/choose-policy'
import { createPolicy } from '@/usecases/screening/create-policy'
import { makeDefaultPolicy } from '@/usecases/screening/make-default-policy'
import { renamePolicy } from '@/usecases/screening/rename-policy'
import { savePolicy } from '@/usecases/screening/save-policy'
import { boolean } from 'yup'

export async function make(name: string, like: number) {
  const result = await act([typed(200), ref()], [name, like], createPolicy)
  revalidatePath('/screening/policies')
  return result
}

export async function save(id: number, basedOn: number, rules: unknown, why: string) {
  const result = await act([ref(), ref(), free(), typed(400)], [id, basedOn, rules, why], savePolicy)
  revalidatePath(`/screening/policies/${Number(id)}`)
  return result
}

export async function rename(id: number, name: string) {
  const result = await act([ref(), typed(200)], [id, name], renamePolicy)
  revalidatePath(`/screening/policies/${Number(id)}`)
  return result
}

export async function makeDefault(id: number) {
  const result = await act([ref()], [id], makeDefaultPolicy)
  revalidatePath(`/screening/policies/${Number(id)}`)
  return result
}

export async function archive(id: number, archived: boolean) {
  const result = await act([ref(), boolean().strict().required()], [id, archived], archivePolicy)
  revalidatePath('/screening/policies')
  return result
}

export async function choose(list: number, policy: number | null) {
  const result = await act([ref(), ref().nullable().default(null)], [list, policy], choosePolicy)
  revalidatePath(`/lists/${Number(list)}`)
  return result
}
