'use server'

import { boolean } from 'yup'
import { revalidatePath } from 'next/cache'
import { headers } from 'next/headers'
import { auth } from '@/app/requests/auth'
import { fromWhere } from '@/app/requests/from'
import { Refused } from '@/usecases/team/actor'
import { noteTry } from '@/usecases/team/sign-in-attempts'
import { act } from '@/app/requests/answer'
import { free, ref, typed } from '@/app/requests/asked'
import { addPost, removePost } from '@/usecases/contact/own-posts'
import { succeeded } from '@/db/team/sign-in-attempts'
import { addColleague } from '@/usecases/team/add-colleague'
import { changeColleague } from '@/usecases/team/change-colleague'
import { newPasswordFor } from '@/usecases/team/new-password-for'
import { removeTerritory } from '@/usecases/team/remove-territory'
import { saveTerritory } from '@/usecases/team/save-territory'
import { removeColleague } from '@/usecases/team/remove-colleague'
import { takeBackColleague } from '@/usecases/team/take-back-colleague'
import { emailOf } from '@/usecases/team/email-of'

export async function add(asked: unknown) {
  const result = await act([free()], [asked], addColleague)
  revalidatePath('/team')
  return result
}

export async function change(id: string, asked: unknown) {
  const result = await act([typed(), free()], [id, asked], changeColleague)
  revalidatePath('/', 'layout')
  return result
}

export async function keepTerritory(asked: unknown) {
  return act([free()], [asked], saveTerritory)
}

export async function dropTerritory(id: number, back = false) {
  return act([ref(), boolean().required()], [id, back], removeTerritory)
}

export async function newPassword(id: string) {
  return act([typed()], [id], newPasswordFor)
}

export async function remove(id: string) {
  const result = await act([typed()], [id], removeColleague)
  revalidatePath('/team')
  return result
}

export async function takeBack(id: string) {
  const result = await act([typed()], [id], takeBackColleague)
  revalidatePath('/team')
  return result
}

/** Changes one's own password, with the one that holds; every other session of theirs ends. */
export async function changePassword(before: string, next: string) {
  return act([typed(1000), typed(1000)], [before, next], async (who, currentPassword, newPassword) => {
    if (newPassword.length < 10 || newPassword.length > 128) throw new Refused('A password has 10 to 128 characters.')
    const tried = await noteTry(await emailOf(who), await fromWhere())
    try {
      await auth().api.changePassword({ body: { currentPassword, newPassword, revokeOtherSessions: true }, headers: await headers() })
    } catch (error) {
      if ((error as { statusCode?: number }).statusCode === 400) throw new Refused('The current password is wrong. Nothing was changed.')
      throw error
    }
    await succeeded(tried)
  })
}

export async function addOwnPost(post: unknown) {
  return act([free()], [post], addPost)
}

export async function removeOwnPost(id: number) {
  return act([ref()], [id], removePost)
}
