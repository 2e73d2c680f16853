'use client'

import { toast } from 'sonner'
import { useRouter } from 'next/navigation'
import { useState, useTransition } from 'react'
import type { ActionResult } from '@/core/views/action-result'
import { MakeList } from '@/ui/book/make-list'

export interface Territory {
  id: number
  name: string
  postcodes: string[]
  holders: { id: string; name: string }[]
}

export interface TerritoryActions {
  keepTerritory: (asked: { id: number | null; name: string; postcodes: string[]; holders: string[] }) => Promise<ActionResult<number>>
  dropTerritory: (id: number, back?: boolean) => Promise<ActionResult<unknown>>
}

/** The territories of the team: what their postcodes begin with, and whose they are. */
export function Territories({
  territories,
  colleagues,
  mayChange,
  actions,
}: {
  territories: readonly Territory[]
  colleagues: readonly { id: string; name: string }[]
  mayChange: boolean
  actions: TerritoryActions
}) {
  const router = useRouter()
  const [open, setOpen] = useState<Territory | 'new' | null>(null)
  const [told, setTold] = useState<string | null>(null)
  const [busy, begin] = useTransition()
  const run = (work: () => Promise<ActionResult<unknown>>) =>
    begin(async () => {
      const done = await work()
      setTold(done.ok ? null : done.error)
      if (done.ok) setOpen(null)
      router.refresh()
    })
  const drop = ({ id, name }: Territory) =>
    run(async () => {
      const done = await actions.dropTerritory(id)
      if (done.ok)
        toast.success(`${name} is removed. Lists that name it keep its postcodes.`, {
          duration: 12_000,
          action: { label: 'Undo', onClick: () => run(() => actions.dropTerritory(id, true)) },
        })
      return done
    })
  return (
    <section className="mt-6" aria-label="Territories">
      <div className="flex items-baseline gap-3">
        <h2>Territories</h2>
        {mayChange && open === null && (
          <button type="button" className="button ml-auto" onClick={() => setOpen('new')}>
            Add territory
          </button>
        )}
      </div>
      <p className="quiet">Sets of postcodes that belong to colleagues. Contacts can be shared out by them, and lists can ask for them.</p>
      {told && (
        <p role="alert" className="told mt-2">
          {told}
        </p>
      )}
      {territories.length > 0 && (
        <table className="account mt-2" aria-label="Territories">
          <thead>
            <tr>
              <th scope="col">Territory</th>
              <th scope="col">Whose</th>
              <th scope="col">
                <span className="sr-only">Actions</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {territories.map((own) => (
              <tr key={own.id}>
                <td>
                  <b>{own.name}</b>
                  <span className="quiet block">{own.postcodes.join(', ')}</span>
                </td>
                <td>
                  {own.holders.length === 0 ? <span className="quiet">nobody’s</span> : own.holders.map(({ name }) => name).join(', ')}
                </td>
                <td className="text-right whitespace-nowrap">
                  <MakeList these={{ territory: own.id }}>Make a list</MakeList>
                  {mayChange && (
                    <>
                      <button
                        type="button"
                        className="px-1.5 font-semibold text-verdigris hover:underline"
                        aria-label={`Edit ${own.name}`}
                        onClick={() => setOpen(own)}
                      >
                        Edit
                      </button>
                      <button
                        type="button"
                        className="px-1.5 font-semibold text-madder hover:underline"
                        aria-label={`Remove ${own.name}`}
                        disabled={busy}
                        onClick={() => drop(own)}
                      >
                        Remove
                      </button>
                    </>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {open !== null && (
        <TerritoryForm
          key={open === 'new' ? 'new' : open.id}
          first={open === 'new' ? null : open}
          colleagues={colleagues}
          busy={busy}
          onLeave={() => setOpen(null)}
          onKeep={(asked) => run(() => actions.keepTerritory(asked))}
        />
      )}
    </section>
  )
}

function TerritoryForm({
  first,
  colleagues,
  busy,
  onLeave,
  onKeep,
}: {
  first: Territory | null
  colleagues: readonly { id: string; name: string }[]
  busy: boolean
  onLeave: () => void
  onKeep: (asked: { id: number | null; name: string; postcodes: string[]; holders: string[] }) => void
}) {
  const [name, setName] = useState(first?.name ?? '')
  const [postcodes, setPostcodes] = useState(first?.postcodes.join(', ') ?? '')
  const [holders, setHolders] = useState<string[]>(first?.holders.map(({ id }) => id) ?? [])
  return (
    <form
      className="mt-3 grid gap-3 rounded-lg border border-rule bg-leaf px-4 py-3"
      aria-label={first ? `Edit ${first.name}` : 'Add territory'}
      onSubmit={(event) => {
        event.preventDefault()
        const typed = postcodes
          .split(/[,;\n]/)
          .map((own) => own.trim())
          .filter(Boolean)
        onKeep({ id: first?.id ?? null, name, postcodes: typed, holders })
      }}
    >
      <label className="field">
        <span>Name of the territory</span>
        <input value={name} maxLength={100} required autoFocus onChange={(event) => setName(event.target.value)} />
      </label>
      <label className="field">
        <span>Postcodes, or what they begin with, set apart by commas</span>
        <textarea
          rows={2}
          value={postcodes}
          required
          placeholder="PW1, PW2 3, PW4"
          onChange={(event) => setPostcodes(event.target.value)}
        />
      </label>
      <fieldset>
        <legend className="quiet mb-1 font-semibold">Whose it is</legend>
        <span className="flex flex-wrap gap-x-4">
          {colleagues.map((own) => (
            <label key={own.id} className="flex min-h-7 items-center gap-1.5">
              <input
                type="checkbox"
                checked={holders.includes(own.id)}
                onChange={(event) => setHolders(event.target.checked ? [...holders, own.id] : holders.filter((id) => id !== own.id))}
              />
              {own.name}
            </label>
          ))}
        </span>
      </fieldset>
      <span className="flex justify-end gap-2">
        <button type="button" className="button" onClick={onLeave}>
          Cancel
        </button>
        <button type="submit" className="button button-main" disabled={busy}>
          Save territory
        </button>
      </span>
    </form>
  )
}
