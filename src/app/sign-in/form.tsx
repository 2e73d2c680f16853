'use client'

import { useActionState } from 'react'
import { type SignInState, signIn } from './actions'

export function SignInForm({ demo }: { demo: { name: string; email: string; post: string; password: string }[] }) {
  const [state, submit, busy] = useActionState<SignInState, FormData>(signIn, {})
  return (
    <div className="grid gap-6">
      {state.error && (
        <p role="alert" className="told">
          {state.error}
        </p>
      )}
      <form action={submit} className="grid gap-3">
        <label className="field">
          <span>Email</span>
          <input name="email" type="email" autoComplete="username" required />
        </label>
        <label className="field">
          <span>Password</span>
          <input name="password" type="password" autoComplete="current-password" required />
        </label>
        <button type="submit" className="button button-main justify-center" disabled={busy}>
          Sign in
        </button>
      </form>
      {demo.length > 0 && (
        <section aria-label="Demo people" className="border-t border-rule pt-4">
          <p className="quiet mb-2">This is the demo. Sign in as</p>
          <div className="grid gap-2">
            {demo.map((person) => (
              <form key={person.email} action={submit}>
                <input type="hidden" name="email" value={person.email} />
                <input type="hidden" name="password" value={person.password} />
                <button type="submit" className="button w-full justify-between" disabled={busy}>
                  {person.name} <span className="quiet font-normal">{person.post}</span>
                </button>
              </form>
            ))}
          </div>
        </section>
      )}
    </div>
  )
}
