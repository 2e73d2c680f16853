'use server'

import { headers } from 'next/headers'
import { redirect } from 'next/navigation'
import { object, string, ValidationError } from 'yup'
import { auth } from '@/app/auth'
import { Refused } from '@/usecases/actor'
import { forgetFailures, mayTry, noteFailure } from '@/usecases/sign-in-attempts'

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
    await mayTry(given.email, await from())
    try {
      await auth().api.signInEmail({ body: given, headers: await headers() })
    } catch (error) {
      if ((error as { statusCode?: number }).statusCode === 401) await noteFailure(given.email, await from())
      throw error
    }
    await forgetFailures(given.email)
  } catch (error) {
    if (error instanceof ValidationError || error instanceof Refused) return { error: error.message }
    const status = (error as { statusCode?: number }).statusCode
    if (status === 401) return { error: 'This e-mail and password do not go together.' }
    return { error: 'Signing in did not work just now. Try again in a moment.' }
  }
  redirect('/lists')
}

/** The address an attempt comes from, as far as the connection or a proxy before it tells. */
async function from(): Promise<string> {
  return (await headers()).get('x-forwarded-for')?.split(',')[0].trim() ?? 'here'
}

export async function signOut(): Promise<void> {
  await auth().api.signOut({ headers: await headers() })
  redirect('/sign-in')
}
