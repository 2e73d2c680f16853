'use client'

import { X } from 'lucide-react'
import { Dialog } from 'radix-ui'
import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import { LIST_ROLES, type ListRole, ROLE_SAYS, type Sharing } from '@/core/records/list-roles'
import type { ActionResult } from '@/core/views/action-result'
import type { ListView } from '@/core/views/list-views'

const ROLE_NAME: Record<ListRole, string> = { see: 'may see it', use: 'may use it', edit: 'may edit it' }

export interface ShareActions {
  share: (id: number, sharing: Sharing) => Promise<ActionResult<unknown>>
  give: (id: number, to: string) => Promise<ActionResult<unknown>>
}

/** Who may see, use and edit a list. Its owner decides; everybody else reads it. */
export function ShareDialog({
  list,
  sharing,
  team,
  actions,
  open,
  onClose,
}: {
  list: ListView
  sharing: Sharing
  team: { id: string; name: string }[]
  actions: ShareActions
  open: boolean
  onClose: () => void
}) {
  const router = useRouter()
  const [next, setNext] = useState(sharing)
  const [heir, setHeir] = useState('')
  const [told, setTold] = useState('')
  const [busy, begin] = useTransition()
  const others = team.filter((person) => person.name !== list.owner && !next.members.some((m) => m.id === person.id))
  const nameOf = (id: string) => team.find((person) => person.id === id)?.name ?? 'Somebody who left'
  const done = (work: Promise<ActionResult<unknown>>) =>
    begin(async () => {
      const result = await work
      if (!result.ok) return setTold(result.error)
      onClose()
      router.refresh()
    })
  return (
    <Dialog.Root open={open} onOpenChange={(to) => !to && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <Dialog.Content
          className="floating fixed top-[12vh] left-1/2 max-h-[80vh] w-[520px] max-w-[94vw] -translate-x-1/2 overflow-y-auto p-5!"
          aria-describedby={undefined}
        >
          <Dialog.Title asChild>
            <h2>Who sees this list</h2>
          </Dialog.Title>
          <p className="quiet mt-1">
            {list.mine ? 'You own this list. Only you can rename, archive or delete it.' : `${list.owner} owns this list.`}
          </p>
          <table className="account mt-3" aria-label="Who may do what">
            <tbody>
              <tr>
                <td>Everybody of the team</td>
                <td className="w-[190px]">
                  <RolePicker
                    label="Everybody of the team"
                    value={next.team}
                    none="nothing: private"
                    disabled={!list.mine}
                    onPick={(team) => setNext({ ...next, team })}
                  />
                </td>
                <td className="w-8" />
              </tr>
              {next.members.map((member) => (
                <tr key={member.id}>
                  <td>{nameOf(member.id)}</td>
                  <td>
                    <RolePicker
                      label={nameOf(member.id)}
                      value={member.role}
                      disabled={!list.mine}
                      onPick={(role) =>
                        setNext({ ...next, members: next.members.map((m) => (m.id === member.id ? { ...m, role: role ?? 'see' } : m)) })
                      }
                    />
                  </td>
                  <td>
                    {list.mine && (
                      <button
                        type="button"
                        className="inline-grid size-6 place-items-center rounded text-soft hover:text-madder"
                        aria-label={`Not with ${nameOf(member.id)}`}
                        onClick={() => setNext({ ...next, members: next.members.filter((m) => m.id !== member.id) })}
                      >
                        <X size={15} aria-hidden="true" />
                      </button>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {list.mine && others.length > 0 && (
            <label className="field mt-2">
              <span>Named people</span>
              <select
                value=""
                onChange={(e) => e.target.value && setNext({ ...next, members: [...next.members, { id: e.target.value, role: 'edit' }] })}
              >
                <option value="">choose somebody</option>
                {others.map((person) => (
                  <option key={person.id} value={person.id}>
                    {person.name}
                  </option>
                ))}
              </select>
            </label>
          )}
          <dl className="quiet mt-3 grid grid-cols-[auto_1fr] gap-x-3 gap-y-0.5">
            {LIST_ROLES.map((role) => (
              <div key={role} className="contents">
                <dt className="font-semibold">{role}</dt>
                <dd>{ROLE_SAYS[role]}</dd>
              </div>
            ))}
          </dl>
          {told && (
            <p role="alert" className="told mt-3">
              {told}
            </p>
          )}
          <div className="mt-4 flex flex-wrap items-center gap-2">
            {list.mine && (
              <>
                <button
                  type="button"
                  className="button button-main"
                  disabled={busy || JSON.stringify(next) === JSON.stringify(sharing)}
                  onClick={() => done(actions.share(list.id, next))}
                >
                  Save
                </button>
                <label className="ml-auto flex items-center gap-2 text-soft">
                  Hand over to
                  <select value={heir} disabled={busy} onChange={(e) => setHeir(e.target.value)}>
                    <option value="">nobody</option>
                    {team
                      .filter((person) => person.name !== list.owner)
                      .map((person) => (
                        <option key={person.id} value={person.id}>
                          {person.name}
                        </option>
                      ))}
                  </select>
                </label>
                {heir && (
                  <button type="button" className="button" disabled={busy} onClick={() => done(actions.give(list.id, heir))}>
                    Hand over
                  </button>
                )}
              </>
            )}
            <Dialog.Close className="button">{list.mine ? 'Cancel' : 'Close'}</Dialog.Close>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}

function RolePicker({
  label,
  value,
  none,
  disabled,
  onPick,
}: {
  label: string
  value: ListRole | null
  none?: string
  disabled: boolean
  onPick: (role: ListRole | null) => void
}) {
  return (
    <select
      aria-label={`What ${label} may do`}
      className="w-full"
      value={value ?? ''}
      disabled={disabled}
      onChange={(e) => onPick((e.target.value || null) as ListRole | null)}
    >
      {none !== undefined && <option value="">{none}</option>}
      {LIST_ROLES.map((role) => (
        <option key={role} value={role}>
          {ROLE_NAME[role]}
        </option>
      ))}
    </select>
  )
}
