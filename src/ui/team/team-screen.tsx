'use client'

import { useRouter } from 'next/navigation'
import { type ReactNode, useState, useTransition } from 'react'
import type { ActionResult } from '@/core/views/action-result'
import type { Colleague, TeamPage } from '@/core/views/team-views'
import { count, day } from '@/ui/book/figures'
import { Spread } from '@/ui/book/spread'
import { PasswordForm, PersonForm } from './team-forms'
import type { TeamActions } from './team-actions'

type Open = { is: 'add' } | { is: 'change' | 'remove'; who: Colleague } | null

/** What was done, and a password to show once. */
type Done = { text: string; password?: string } | null

/** Who is on the team, and one's own password. Managers add, change and remove people here. */
export function TeamScreen({
  page,
  actions,
  territories,
  own,
}: {
  page: TeamPage
  actions: TeamActions
  territories: ReactNode
  own: ReactNode
}) {
  const router = useRouter()
  const [open, setOpen] = useState<Open>(null)
  const [done, setDone] = useState<Done>(null)
  const [told, setTold] = useState('')
  const [busy, begin] = useTransition()

  const doing = <T,>(work: () => Promise<ActionResult<T>>, then: (value: T) => Done) =>
    begin(async () => {
      setTold('')
      const result = await work()
      if (!result.ok) return setTold(result.error)
      setDone(then(result.value))
      setOpen(null)
      router.refresh()
    })
  const start = (next: Open) => {
    setTold('')
    setDone(null)
    setOpen(next)
  }
  return (
    <Spread
      label={{ left: 'Team', right: 'Change' }}
      width="56%"
      left={
        <>
          <div className="flex items-baseline gap-3">
            <h1>Team</h1>
            {page.mayChange && (
              <button type="button" className="button ml-auto" onClick={() => start({ is: 'add' })}>
                Add person
              </button>
            )}
          </div>
          <p className="quiet">
            {page.mayChange
              ? 'Changes take effect at once. A removed person is signed out immediately.'
              : 'Managers add, edit and remove people.'}
          </p>
          {done && (
            <div role="status" className="mt-3 rounded-lg border border-verdigris bg-leaf px-3 py-2">
              <p>{done.text}</p>
              {done.password && (
                <p className="mt-1">
                  Password: <code className="select-all font-bold">{done.password}</code>{' '}
                  <span className="quiet">It is shown only once. They can change it on this page.</span>
                </p>
              )}
            </div>
          )}
          <table className="account mt-4">
            <thead>
              <tr>
                <th scope="col">Name</th>
                <th scope="col">Post</th>
                <th scope="col" className="figure">
                  Lists
                </th>
                {page.mayChange && (
                  <th scope="col">
                    <span className="sr-only">Edit</span>
                  </th>
                )}
              </tr>
            </thead>
            <tbody>
              {page.colleagues.map((who) => (
                <tr key={who.id}>
                  <td>
                    <b>{who.name}</b>
                    {who.me && <span className="quiet"> (you)</span>}
                    {who.email && <span className="quiet block">{who.email}</span>}
                  </td>
                  <td>{who.post}</td>
                  <td className="figure">{count(who.lists)}</td>
                  {page.mayChange && (
                    <td className="text-right whitespace-nowrap">
                      <button
                        type="button"
                        className="px-1.5 font-semibold text-verdigris hover:underline"
                        aria-label={`Edit ${who.name}`}
                        onClick={() => start({ is: 'change', who })}
                      >
                        Edit
                      </button>
                      {!who.me && (
                        <button
                          type="button"
                          className="px-1.5 font-semibold text-madder hover:underline"
                          aria-label={`Remove ${who.name}`}
                          onClick={() => start({ is: 'remove', who })}
                        >
                          Remove
                        </button>
                      )}
                    </td>
                  )}
                </tr>
              ))}
            </tbody>
          </table>
          {territories}
          {page.left.length > 0 && (
            <details className="mt-4">
              <summary className="cursor-pointer font-semibold text-verdigris">Removed people, {count(page.left.length)}</summary>
              <ul className="mt-2 grid gap-1">
                {page.left.map((who) => (
                  <li key={who.id} className="flex items-center gap-3">
                    {who.name} <span className="quiet">removed {day(who.at)}</span>
                    <button
                      type="button"
                      className="ml-auto px-1.5 font-semibold text-verdigris hover:underline"
                      aria-label={`Restore ${who.name}`}
                      disabled={busy}
                      onClick={() =>
                        doing(
                          () => actions.takeBack(who.id),
                          ({ password }) => ({
                            text: `${who.name} can sign in again. Their former lists stay with their present owners. Share lists with them again where needed.`,
                            password,
                          }),
                        )
                      }
                    >
                      Restore
                    </button>
                  </li>
                ))}
              </ul>
            </details>
          )}
        </>
      }
      right={
        <>
          {told && (
            <p role="alert" className="told mb-3">
              {told}
            </p>
          )}
          {open?.is === 'add' && (
            <PersonForm
              key="add"
              title="Add person"
              button="Add person"
              busy={busy}
              first={{ name: '', email: '', post: 'caller' }}
              onLeave={() => start(null)}
              onGive={(asked) =>
                doing(
                  () => actions.add(asked),
                  ({ password }) => ({ text: `${asked.name} can sign in as ${asked.email}.`, password }),
                )
              }
            />
          )}
          {open?.is === 'change' && (
            <PersonForm
              key={open.who.id}
              title={`Edit ${open.who.name}`}
              button="Save changes"
              busy={busy}
              first={{ name: open.who.name, email: open.who.email ?? '', post: open.who.post }}
              onLeave={() => start(null)}
              onGive={(asked) =>
                doing(
                  () => actions.change(open.who.id, asked),
                  () => ({ text: `Saved the changes to ${asked.name}.` }),
                )
              }
            >
              {!open.who.me && (
                <p className="mt-4 border-t border-rule pt-4">
                  Forgot the password?{' '}
                  <button
                    type="button"
                    className="button ml-2"
                    disabled={busy}
                    onClick={() =>
                      doing(
                        () => actions.newPassword(open.who.id),
                        ({ password }) => ({ text: `${open.who.name} has a new password and is signed out everywhere.`, password }),
                      )
                    }
                  >
                    Set new password
                  </button>
                </p>
              )}
            </PersonForm>
          )}
          {open?.is === 'remove' && (
            <section aria-label={`Remove ${open.who.name}`}>
              <h2>Remove {open.who.name}?</h2>
              <p className="mt-2">
                {open.who.name} is signed out at once and can no longer sign in. Their past work keeps their name.
                {open.who.lists > 0 &&
                  ` Their ${open.who.lists === 1 ? 'list moves' : `${count(open.who.lists)} lists move`} to you, private ones too. The same people can see them.`}
              </p>
              <div className="mt-4 flex gap-2">
                <button
                  type="button"
                  className="button button-main"
                  disabled={busy}
                  onClick={() =>
                    doing(
                      () => actions.remove(open.who.id),
                      ({ lists }) => ({
                        text: `Removed ${open.who.name}.${lists > 0 ? ` You now own ${lists === 1 ? 'their list' : `their ${count(lists)} lists`}.` : ''}`,
                      }),
                    )
                  }
                >
                  Remove {open.who.name}
                </button>
                <button type="button" className="button" onClick={() => start(null)}>
                  Cancel
                </button>
              </div>
            </section>
          )}
          {open === null && (
            <PasswordForm
              busy={busy}
              onGive={(before, next) =>
                doing(
                  () => actions.changePassword(before, next),
                  () => ({ text: 'Your password is changed. You are signed out everywhere else.' }),
                )
              }
            />
          )}
          {open === null && own}
        </>
      }
    />
  )
}
