'use server'

import { revalidatePath } from 'next/cache'
import { redirect } from 'next/navigation'
import { copyList, createList, deleteList, renameList, restoreList, saveEdition } from '@/usecases/lists'
import { startRound } from '@/usecases/rounds'
import { act } from '../../answer'

export async function newList(name: string, shared: boolean) {
  return act((who) => createList(who, name, shared))
}

export async function saveList(id: number, basedOn: number, lines: unknown) {
  return act((who) => saveEdition(who, id, basedOn, lines))
}

export async function copy(id: number) {
  return act((who) => copyList(who, id))
}

export async function change(id: number, to: { name?: string; shared?: boolean }) {
  return act((who) => renameList(who, id, to))
}

export async function remove(id: number) {
  return act((who) => deleteList(who, id))
}

export async function restore(id: number) {
  const result = await act((who) => restoreList(who, id))
  revalidatePath('/lists')
  return result
}

export async function start(id: number) {
  const started = await act((who) => startRound(who, id))
  if (started.ok) redirect(`/rounds/${started.value}`)
  return started
}
