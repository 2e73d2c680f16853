import { useState } from 'react'
import { OWN_TIES, type OwnTie } from '@/core/contact/ties'
import { FindPerson } from '@/ui/directory/find-person'

/** Records that somebody else outside the team knows them. */
export function AcquaintForm({
  person,
  busy,
  onAcquaint,
}: {
  person: number
  busy: boolean
  onAcquaint: (other: number, how: OwnTie) => void
}) {
  const [how, setHow] = useState<OwnTie>('worked with')
  const [open, setOpen] = useState(false)
  return (
    <details open={open} onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="cursor-pointer font-semibold text-verdigris">Somebody else knows them</summary>
      {open && (
        <div className="mt-2 grid gap-2 rounded-lg border border-rule bg-leaf p-3">
          <label className="field">
            <span>How</span>
            <select value={how} onChange={(event) => setHow(OWN_TIES.find((own) => own === event.target.value) ?? 'worked with')}>
              {OWN_TIES.map((own) => (
                <option key={own} value={own}>
                  {own}
                </option>
              ))}
            </select>
          </label>
          <fieldset disabled={busy}>
            <FindPerson
              label="Find them by name, organisation, email or phone"
              but={person}
              onChoose={(other) => {
                onAcquaint(other.id, how)
                setOpen(false)
              }}
            />
          </fieldset>
        </div>
      )}
    </details>
  )
}
