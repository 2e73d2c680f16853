import Link from 'next/link'
import type { OrganisationPage } from '@/core/outputs/views'
import { count, day } from './figures'
import { Reach } from './reach'
import { Spread } from './spread'
import { YearStrip } from './year-strip'

/** One organisation: what is known of it, and its people. */
export function OrganisationScreen({ organisation: o }: { organisation: OrganisationPage }) {
  return (
    <Spread
      width="420px"
      label={{ left: 'The organisation', right: 'Its people' }}
      left={
        <>
          <h1>{o.name}</h1>
          <p className="quiet">{o.industry ?? 'what it is was never told'}</p>
          <dl className="mt-4 grid grid-cols-[auto_1fr] gap-x-4 gap-y-1.5">
            <dt className="text-soft">Address</dt>
            <dd>{o.postal ?? '–'}</dd>
            <dt className="text-soft">People</dt>
            <dd>{count(o.staff.length)}</dd>
            <dt className="text-soft">Last contact</dt>
            <dd>{o.lastAt ? day(o.lastAt) : 'never'}</dd>
          </dl>
        </>
      }
      right={
        <>
          <h2>People</h2>
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
                    <Link href={`/directory/people/${p.id}`} className="text-[14px] font-semibold no-underline hover:underline">
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
