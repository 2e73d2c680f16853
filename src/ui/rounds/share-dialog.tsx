'use client'

import { Users } from 'lucide-react'
import { Dialog } from 'radix-ui'
import { DialogFrame } from '@/ui/forms/dialog-frame'
import { useState, useTransition } from 'react'
import type { ActionResult } from '@/core/views/action-result'
import type { RoundPage, SharesTold } from '@/core/views/round-views'
import { CHANNEL_TITLE, type Channel } from '@/core/records/channels'
import type { SharingHow } from '@/core/rounds/share-out'
import { useAsked } from '@/ui/book/asking'
import { count } from '@/ui/book/figures'

export interface ShareActions {
  shareOut: (round: number, channel: Channel, how: SharingHow) => Promise<ActionResult<unknown>>
  unshare: (round: number, channel: Channel) => Promise<ActionResult<unknown>>
}

/** Shares out the contacts of a channel among colleagues: who takes part, in which proportion, and whom each would get. */
export function ShareDialog({ round, actions, onShared }: { round: RoundPage; actions: ShareActions; onShared: () => void }) {
  const files = round.files.filter(({ rows, withdrawnAt }) => rows > 0 && !withdrawnAt)
  const [open, setOpen] = useState(false)
  const [channel, setChannel] = useState<Channel>(files.find((file) => file.channel === 'phone')?.channel ?? files[0]?.channel ?? 'phone')
  const [given, setGiven] = useState<Record<string, number>>({})
  const [known, setKnown] = useState(true)
  const [had, setHad] = useState(true)
  const [territory, setTerritory] = useState(true)
  const [told, setTold] = useState<string | null>(null)
  const [busy, begin] = useTransition()
  const asked = useAsked<SharesTold>(open ? [`/api/rounds/${round.id}/share`, { channel, how: null }] : null, { hold: true })
  // Whoever has left since, or may not use the list any more, takes no part.
  const colleagues = (asked.answer?.colleagues ?? []).flatMap(({ id }) => ((given[id] ?? 0) > 0 ? [{ id, share: given[id] }] : []))
  const how: SharingHow | null = colleagues.length > 0 ? { colleagues, known, had, territory } : null
  const shares = useAsked<SharesTold>(open && how ? [`/api/rounds/${round.id}/share`, { channel, how }] : null, { hold: true })
  const rows = ((how && shares.answer) || asked.answer)?.colleagues ?? []
  const run = (work: () => Promise<ActionResult<unknown>>) =>
    begin(async () => {
      const done = await work()
      if (!done.ok) return setTold(done.error)
      setOpen(false)
      onShared()
    })
  if (files.length === 0) return null
  return (
    <DialogFrame
      open={open}
      onOpenChange={(next) => {
        setOpen(next)
        setTold(null)
        const before = round.last?.sharing.find((own) => own.channel === channel)?.how
        // As the round before was shared out, until something else is chosen.
        if (next && before && Object.keys(given).length === 0) {
          setGiven(Object.fromEntries(before.colleagues.map((own) => [own.id, own.share])))
          setKnown(before.known)
          setHad(before.had)
          setTerritory(before.territory ?? false)
        }
      }}
      trigger={
        <>
          <Users size={15} aria-hidden="true" /> Share out
        </>
      }
      title="Share out the contacts"
      about="Each colleague gets a file of theirs. An organisation stays with one colleague."
      width={680}
    >
      <label className="field mt-3 max-w-[220px]">
        <span>Contacts by</span>
        <select value={channel} onChange={(event) => setChannel(event.target.value as Channel)}>
          {files.map((file) => (
            <option key={file.channel} value={file.channel}>
              {CHANNEL_TITLE[file.channel]}
            </option>
          ))}
        </select>
      </label>
      <div className="mt-3 grid gap-1">
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={known} onChange={(event) => setKnown(event.target.checked)} />
          Whoever knows somebody gets them
        </label>
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={territory} onChange={(event) => setTerritory(event.target.checked)} />
          Whoever has their territory gets them
        </label>
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={had} onChange={(event) => setHad(event.target.checked)} />
          Whoever contacted them last gets them
        </label>
      </div>
      <table className="account mt-3 [&_td]:align-middle" aria-label="Colleagues">
        <thead>
          <tr>
            <th scope="col">Colleague</th>
            <th scope="col">Share</th>
            <th scope="col" className="figure">
              Knows
            </th>
            <th scope="col" className="figure">
              Territory
            </th>
            <th scope="col" className="figure">
              Had last
            </th>
            <th scope="col" className="figure">
              Same organisation
            </th>
            <th scope="col" className="figure">
              Given out
            </th>
            <th scope="col" className="figure balance">
              Contacts
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((own) => (
            <tr key={own.id}>
              <td>
                <label className="flex items-center gap-2">
                  <input
                    type="checkbox"
                    checked={(given[own.id] ?? 0) > 0}
                    onChange={(event) => setGiven({ ...given, [own.id]: event.target.checked ? 1 : 0 })}
                  />
                  {own.name}
                </label>
              </td>
              <td>
                <input
                  type="number"
                  min={1}
                  max={100}
                  className="w-16"
                  aria-label={`Share of ${own.name}`}
                  disabled={(given[own.id] ?? 0) === 0}
                  value={given[own.id] || 1}
                  onChange={(event) =>
                    setGiven({ ...given, [own.id]: Math.min(100, Math.max(1, Math.round(Number(event.target.value)) || 1)) })
                  }
                />
              </td>
              <td className="figure">{count(own.knows)}</td>
              <td className="figure">{count(own.territory)}</td>
              <td className="figure">{count(own.had)}</td>
              <td className="figure">{count(own.organisation)}</td>
              <td className="figure">{count(own.share)}</td>
              <td className="figure balance">{count(own.people)}</td>
            </tr>
          ))}
          <tr className="total">
            <td colSpan={7}>Everybody once</td>
            <td className="figure balance">{count(how ? shares.answer?.people : 0)}</td>
          </tr>
        </tbody>
      </table>
      {(told ?? asked.told ?? shares.told) && (
        <p role="alert" className="told mt-2">
          {told ?? asked.told ?? shares.told}
        </p>
      )}
      <div className="mt-3 flex flex-wrap gap-2">
        <button
          type="button"
          className="button button-main"
          disabled={busy || !how || shares.held || !shares.answer}
          onClick={() => how && run(() => actions.shareOut(round.id, channel, how))}
        >
          Share out {how && !shares.held && shares.answer ? `${count(shares.answer.people)} contacts` : 'the contacts'}
        </button>
        {round.shares.some((own) => own.channel === channel) && (
          <button type="button" className="button" disabled={busy} onClick={() => run(() => actions.unshare(round.id, channel))}>
            Take back the sharing
          </button>
        )}
        <Dialog.Close className="button">Cancel</Dialog.Close>
      </div>
    </DialogFrame>
  )
}
