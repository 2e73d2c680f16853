'use client'

import { MakeList } from '@/ui/book/make-list'
import Link from 'next/link'
import type { ReactNode } from 'react'
import type { ActionResult } from '@/core/views/action-result'
import type { OrganisationPage } from '@/core/views/record-views'
import { count, day } from '@/ui/book/figures'
import { Reach } from '@/ui/tables/reach'
import { Ledger } from './ledger'
import { OnListInHand } from './on-list-in-hand'
import { SuppressForm } from './person-forms'
import type { SuppressTarget } from '@/ui/screening/screening-actions'
import { Spread } from '@/ui/book/spread'
import { YearStrip } from '@/ui/tables/year-strip'

/** One organisation: what is known of it, and its people. */
export function OrganisationScreen({
  organisation: o,
  suppress,
  changes,
}: {
  organisation: OrganisationPage
  suppress: (target: SuppressTarget, input: unknown) => Promise<ActionResult<unknown>>
  changes: ReactNode
}) {
  return (
    <Spread
      width="420px"
      label={{ left: 'The organisation', right: 'Its people' }}
      left={
        <>
          <div className="flex items-start justify-between gap-3">
            <h1 className="min-w-0 break-words">{o.name}</h1>
            <span className="flex shrink-0 gap-1.5">
              <OnListInHand of="organisation" ids={[o.id]} />
              <MakeList these={{ of: 'organisation', ids: [o.id] }} alike>
                More like this one
              </MakeList>
            </span>
          </div>
          <p className="quiet">{o.industry ?? 'industry not recorded'}</p>
          <dl className="mt-4 grid grid-cols-[auto_1fr] gap-x-4 gap-y-1.5">
            <dt className="text-soft">Address</dt>
            <dd>{o.postal ?? '–'}</dd>
            <dt className="text-soft">County</dt>
            <dd>{o.county ?? '–'}</dd>
            <dt className="text-soft">Head count</dt>
            <dd>{o.headCount === null ? 'unknown' : count(o.headCount)}</dd>
            {o.website && (
              <>
                <dt className="text-soft">Website</dt>
                <dd className="break-all">
                  <a href={o.website} rel="noreferrer noopener nofollow" target="_blank">
                    {o.website.replace(/^https?:\/\//, '')}
                  </a>
                </dd>
              </>
            )}
            {o.fields.map(({ name, value }) => (
              <div key={name} className="contents">
                <dt className="text-soft">{name[0].toUpperCase() + name.slice(1)}</dt>
                <dd className="break-words">{value}</dd>
              </div>
            ))}
            <dt className="text-soft">People</dt>
            <dd>{count(o.people)}</dd>
            <dt className="text-soft">Last contact</dt>
            <dd>{o.lastAt ? day(o.lastAt) : 'never'}</dd>
          </dl>
          <div className="mt-5 grid gap-4">
            <SuppressForm
              label="Suppress everybody here, now and later"
              suppress={(input, form) => suppress({ organisation: o.id, branches: form.get('branches') === 'on' }, input)}
            >
              {o.branches.length > 0 && (
                <label className="flex items-start gap-1.5">
                  <input type="checkbox" name="branches" className="mt-1" />
                  <span>
                    Also {o.branches.length === 1 ? 'its branch' : `its ${count(o.branches.length)} branches`}, by the same website or name:{' '}
                    {o.branches
                      .slice(0, 5)
                      .map(({ name }) => name)
                      .join(', ')}
                    {o.branches.length > 5 && ' …'}
                  </span>
                </label>
              )}
            </SuppressForm>
          </div>
          {o.ledger.length > 0 && (
            <section className="mt-5" aria-label="The ledger">
              <h2>Ledger</h2>
              <Ledger items={o.ledger} />
            </section>
          )}
        </>
      }
      right={
        <>
          {changes}
          <div className="flex items-center justify-between gap-3">
            <h2>People</h2>
            <span className="flex gap-1.5">
              <Link prefetch={false} href={`/changes/movement?organisation=${o.id}`} className="button px-2! py-0.5!">
                Movement
              </Link>
              <OnListInHand of="person" ids={o.staff.map((p) => p.id)} />
              {o.staff.length > 0 && <MakeList these={{ of: 'person', ids: o.staff.map((p) => p.id) }}>Make a list of these</MakeList>}
            </span>
          </div>
          {o.staff.length < o.people && (
            <p className="quiet mt-1" role="status">
              The first {count(o.staff.length)} of {count(o.people)} people, by name. A list with the line “works at {o.name}” holds all of
              them.
            </p>
          )}
          <table className="people mt-2">
            <thead>
              <tr>
                <th scope="col">Person</th>
                <th scope="col">Reach</th>
                <th scope="col">A year</th>
                <th scope="col">Last dealt with</th>
              </tr>
            </thead>
            <tbody>
              {o.staff.map((p) => (
                <tr key={p.id}>
                  <td>
                    <Link
                      prefetch={false}
                      href={`/directory/people/${p.id}`}
                      className="text-[14px] font-semibold no-underline hover:underline"
                    >
                      {p.name}
                    </Link>
                    <span className="quiet block">{p.role ?? 'no role'}</span>
                  </td>
                  <td>
                    <Reach reach={p.reach} />
                  </td>
                  <td>
                    <YearStrip strip={p.strip} />
                  </td>
                  <td>{p.last ? `${day(p.last.at)} · ${p.last.result ?? p.last.channel}` : 'never'}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      }
    />
  )
}
