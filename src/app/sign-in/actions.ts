'use server'

import { headers } from 'next/headers'
import { redirect } from 'next/navigation'
import { object, string, ValidationError } from 'yup'
import { auth } from '@/app/auth'

const schema = object({
  email: string().trim().email('That is not a whole e-mail address.').required('Give your e-mail address.'),
  password: string().required('Give your password.'),
})

export interface SignInState {
  error?: string
}

export async function signIn(_before: SignInState, form: FormData): Promise<SignInState> {
  try {
    const given = schema.validateSync(Object.fromEntries(form), { stripUnknown: true })
    await auth().api.signInEmail({ body: given, headers: await headers() })
  } catch (error) {
    if (error instanceof ValidationError) return { error: error.message }
    const status = (error as { statusCode?: number }).statusCode
    if (status === 401) return { error: 'This e-mail and password do not go together.' }
    if (status === 429) return { error: 'Too many attempts. Wait a minute, then try again.' }
    return { error: 'Signing in did not work just now. Try again in a moment.' }
  }
  redirect('/lists')
}

export async function signOut(): Promise<void> {
  await auth().api.signOut({ headers: await headers() })
  redirect('/sign-in')
}
