import { useState } from 'react'
import type { PeoplePage, PersonView } from '@/core/views/record-views'
import { useAsked } from '@/ui/book/asking'

/** Finds somebody of the directory by a few letters, and lets one of the first found be chosen. */
export function FindPerson({ label, but, onChoose }: { label: string; but: number; onChoose: (person: PersonView) => void }) {
  const [find, setFind] = useState('')
  const asked = find.trim().length < 2 ? null : { find, sort: 'name', offset: 0 }
  const { answer, told } = useAsked<PeoplePage>(asked && ['/api/people', asked], {
    hold: true,
    failed: 'The directory could not be searched.',
  })
  const found = asked && answer ? answer.people.filter((p) => p.id !== but).slice(0, 6) : []
  return (
    <>
      <label className="field">
        <span>{label}</span>
        <input type="search" value={find} onChange={(event) => setFind(event.target.value)} />
      </label>
      {told && (
        <p role="alert" className="told">
          {told}
        </p>
      )}
      <ul>
        {found.map((p) => (
          <li key={p.id}>
            <button type="button" className="menu-item" onClick={() => onChoose(p)}>
              <span>
                <b>{p.name}</b> <span className="quiet">{[p.role, p.organisation, p.place].filter(Boolean).join(', ')}</span>
              </span>
            </button>
          </li>
        ))}
      </ul>
    </>
  )
}
