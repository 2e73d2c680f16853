'use client'

import type { ReactNode } from 'react'
import { MakeList } from '@/ui/book/make-list'
import type { PremisesPage } from '@/core/views/record-views'
import { count } from '@/ui/book/figures'
import { Ledger } from './ledger'
import { OnListInHand } from './on-list-in-hand'
import { Spread } from '@/ui/book/spread'

/** Premises: what is known of them, and their ledger. */
export function PremisesScreen({ premises: p, changes }: { premises: PremisesPage; changes: ReactNode }) {
  const known: [string, string | null][] = [
    ['Kind', p.kind],
    ['Address', p.postal || null],
    ['County', p.county],
    ['Lies at', p.position && `${p.position.lat.toFixed(5)}, ${p.position.lon.toFixed(5)}`],
    ['Roof', p.roofArea === null ? null : `${count(p.roofArea)} m²`],
    ['Built', p.yearBuilt === null ? null : String(p.yearBuilt)],
    ['Owner', p.owner],
    ['Kind of owner', p.ownerKind],
    ['Outside id', p.outsideId],
    ...p.fields.map(({ name, value }): [string, string] => [name, value]),
  ]
  return (
    <Spread
      width="420px"
      label={{ left: 'The premises', right: 'Their ledger' }}
      left={
        <>
          <div className="flex items-start justify-between gap-3">
            <h1 className="min-w-0 break-words">{p.name}</h1>
            <span className="flex shrink-0 gap-1.5">
              <OnListInHand of="premises" ids={[p.id]} />
              <MakeList these={{ of: 'premises', ids: [p.id] }} alike>
                More like this one
              </MakeList>
            </span>
          </div>
          {p.state === 'withdrawn' && <p className="told my-2">Withdrawn from the directory. The ledger stays.</p>}
          <dl className="mt-4 grid grid-cols-[auto_1fr] gap-x-4 gap-y-1.5">
            {known.map(([title, value]) => (
              <div key={title} className="contents">
                <dt className="text-soft">{title}</dt>
                <dd className="break-words">{value ?? 'unknown'}</dd>
              </div>
            ))}
          </dl>
        </>
      }
      right={
        <>
          {changes}
          <h2>Ledger</h2>
          <Ledger items={p.ledger} />
        </>
      }
    />
  )
}
