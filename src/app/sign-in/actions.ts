'use server'

import { headers } from 'next/headers'
import { redirect } from 'next/navigation'
import { object, string, ValidationError } from 'yup'
import { auth } from '@/app/requests/auth'
import { Refused } from '@/usecases/team/actor'
import { noteTry } from '@/usecases/team/sign-in-attempts'
import { fromWhere, keepMark } from '@/app/requests/from'
import { succeeded } from '@/db/team/sign-in-attempts'

const schema = object({
  email: string().trim().max(300).email('This email address is not complete.').required('Enter your email address.'),
  password: string().max(1000).required('Enter your password.'),
})

export interface SignInState {
  error?: string
}

export async function signIn(_before: SignInState, form: FormData): Promise<SignInState> {
  try {
    const given = schema.validateSync(Object.fromEntries(form), { stripUnknown: true })
    const tried = await noteTry(given.email, await fromWhere())
    await auth().api.signInEmail({ body: given, headers: await headers() })
    await succeeded(tried)
    await keepMark(given.email)
  } catch (error) {
    if (error instanceof ValidationError || error instanceof Refused) return { error: error.message }
    const status = (error as { statusCode?: number }).statusCode
    if (status === 401) return { error: 'This email and password do not match.' }
    return { error: 'Signing in failed. Try again in a minute.' }
  }
  redirect('/today')
}

export async function signOut(): Promise<void> {
  await auth().api.signOut({ headers: await headers() })
  redirect('/sign-in')
}
