'use client'

import type { ContactRow } from '@/core/clean/contact-row'
import type { PersonRow } from '@/core/clean/person-row'
import type { PremisesRow } from '@/core/clean/premises-row'
import type { Refusal } from '@/core/clean/cells'
import type { SuppressionRow } from '@/core/clean/suppression-row'
import type { Note } from '@/core/clean/notes'
import { fieldLabel } from '@/core/match/columns'

type Stored = PersonRow | ContactRow | SuppressionRow | PremisesRow | Refusal

/** What is doubtful about a row, and, one press away, what was done to its values and how they came. */
function Notes({ notes }: { notes: Note[] }) {
  const done = notes.filter((note) => !note.doubt)
  const fields = [...new Set(done.map((note) => fieldLabel('people', note.field).toLowerCase()))]
  return (
    <>
      {notes
        .filter((note) => note.doubt)
        .map((note) => (
          <span key={`${note.field} ${note.what}`} className="block text-[0.8125rem] break-words text-ochre">
            {note.what}
          </span>
        ))}
      {done.length > 0 && (
        <details className="text-[0.8125rem] text-soft">
          <summary className="cursor-pointer py-0.5">cleaned: {fields.join(', ')}</summary>
          <ul className="pl-4">
            {done.map((note) => (
              <li key={`${note.field} ${note.what} ${note.raw}`} className="break-words">
                {fieldLabel('people', note.field)}: {note.what}, came as <q className="whitespace-pre-wrap">{note.raw.trim()}</q>
              </li>
            ))}
          </ul>
        </details>
      )}
    </>
  )
}

/** What a row of a file became: a record, or why it was refused. */
export function StoredRow({ stored }: { stored: Stored }) {
  if ('refused' in stored) return <span className="text-madder">Refused: {stored.refused}</span>
  if ('position' in stored)
    return (
      <>
        <b>{stored.name}</b> <span className="text-soft">{stored.kind}</span>
        <span className="quiet block">
          {[
            [stored.postal.street, stored.postal.town, stored.county, stored.postal.postcode].filter(Boolean).join(', '),
            stored.position && `${stored.position.lat}, ${stored.position.lon}`,
            stored.roofArea !== null && `roof ${stored.roofArea} m²`,
            stored.yearBuilt,
            stored.owner,
            stored.outsideId && `id ${stored.outsideId}`,
          ]
            .filter(Boolean)
            .join(' · ')}
        </span>
        {stored.doubts.map((doubt) => (
          <span key={doubt} className="block text-[0.8125rem] break-words text-ochre">
            {doubt}
          </span>
        ))}
      </>
    )
  if ('emails' in stored)
    return (
      <>
        <b>{stored.name.name}</b> <span className="text-soft">{[stored.role, stored.organisation].filter(Boolean).join(', ')}</span>
        <span className="quiet block">
          {[
            ...[...stored.emails, ...stored.phones, ...stored.directs].map((a) => a.value),
            [stored.postal.street, stored.postal.town, stored.county, stored.postal.postcode].filter(Boolean).join(', '),
            stored.headCount !== null && `${stored.headCount} work there`,
            stored.website,
            stored.relation,
            stored.tags.join(', '),
            stored.outsideId && `id ${stored.outsideId}`,
          ]
            .filter(Boolean)
            .join(' · ')}
        </span>
        <Notes notes={stored.notes} />
      </>
    )
  const who = [
    'domain' in stored && stored.domain && `@${stored.domain}`,
    'postal' in stored && stored.postal && [stored.postal.street, stored.postal.town, stored.postal.postcode].filter(Boolean).join(', '),
    'organisation' in stored && stored.organisation,
    stored.name?.name,
    stored.email,
    stored.phone,
    'direct' in stored && stored.direct,
    stored.outsideId && `id ${stored.outsideId}`,
  ]
    .filter(Boolean)
    .join(' · ')
  return (
    <>
      <b>{who}</b>
      <span className="quiet block">
        {'date' in stored
          ? [stored.date, stored.channel, stored.result, stored.note].filter(Boolean).join(' · ')
          : [
              stored.reason,
              stored.channels.join(', '),
              stored.since && `since ${stored.since}`,
              stored.until && `until ${stored.until}`,
              stored.word,
            ]
              .filter(Boolean)
              .join(' · ')}
      </span>
    </>
  )
}
