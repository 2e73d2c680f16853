'use client'

import { useState } from 'react'
import { type Asked, POSTS_SAY } from './team-actions'

/** The form of a colleague's name, email address and post. */
export function PersonForm({
  title,
  button,
  first,
  busy,
  onGive,
  onLeave,
  children,
}: {
  title: string
  button: string
  first: Asked
  busy: boolean
  onGive: (asked: Asked) => void
  onLeave: () => void
  children?: React.ReactNode
}) {
  const [asked, setAsked] = useState(first)
  return (
    <section aria-label={title}>
      <h2>{title}</h2>
      <form
        className="mt-3 grid gap-3"
        onSubmit={(event) => {
          event.preventDefault()
          onGive(asked)
        }}
      >
        <label className="field">
          <span>Name</span>
          <input
            autoFocus
            required
            maxLength={120}
            value={asked.name}
            onChange={(event) => setAsked({ ...asked, name: event.target.value })}
          />
        </label>
        <label className="field">
          <span>Email</span>
          <input
            type="email"
            required
            maxLength={254}
            value={asked.email}
            onChange={(event) => setAsked({ ...asked, email: event.target.value })}
          />
        </label>
        <fieldset className="grid gap-1">
          <legend className="mb-1 font-semibold">Post</legend>
          {POSTS_SAY.map(([post, says]) => (
            <label key={post} className="flex items-baseline gap-2">
              <input type="radio" name="post" checked={asked.post === post} onChange={() => setAsked({ ...asked, post })} /> {post}{' '}
              <span className="quiet">{says}</span>
            </label>
          ))}
        </fieldset>
        <div className="flex gap-2">
          <button type="submit" className="button button-main" disabled={busy}>
            {button}
          </button>
          <button type="button" className="button" onClick={onLeave}>
            Cancel
          </button>
        </div>
      </form>
      {children}
    </section>
  )
}

/** The form that changes one's own password. */
export function PasswordForm({ busy, onGive }: { busy: boolean; onGive: (before: string, next: string) => void }) {
  const [before, setBefore] = useState('')
  const [next, setNext] = useState('')
  return (
    <section aria-label="Your password">
      <h2>Your password</h2>
      <form
        className="mt-3 grid gap-3"
        onSubmit={(event) => {
          event.preventDefault()
          onGive(before, next)
          setBefore('')
          setNext('')
        }}
      >
        <label className="field">
          <span>Current password</span>
          <input
            type="password"
            autoComplete="current-password"
            required
            value={before}
            onChange={(event) => setBefore(event.target.value)}
          />
        </label>
        <label className="field">
          <span>New password, at least 10 characters</span>
          <input
            type="password"
            autoComplete="new-password"
            required
            minLength={10}
            maxLength={128}
            value={next}
            onChange={(event) => setNext(event.target.value)}
          />
        </label>
        <div>
          <button type="submit" className="button" disabled={busy}>
            Change password
          </button>
        </div>
        <p className="quiet">This signs you out everywhere else.</p>
      </form>
    </section>
  )
}
