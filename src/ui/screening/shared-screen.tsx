import Link from 'next/link'
import { CHANNEL_TITLE } from '@/core/records/channels'
import type { SharedAddress } from '@/core/views/comparison-views'
import { count } from '@/ui/book/figures'

/** More are in the file. */
const SHOWN = 500

/** The addresses and numbers that we and another organisation both must not contact. */
export function SharedScreen({ id, name, shared }: { id: number; name: string; shared: SharedAddress[] }) {
  return (
    <main className="leaf bg-leaf" style={{ minHeight: 'calc(100dvh - 53px)' }}>
      <div className="mx-auto max-w-[860px]">
        <p className="quiet">
          <Link href="/screening">Screening</Link> · <Link href="/screening/compare">Compare suppressions</Link>
        </p>
        <h1 className="break-words">Shared with {name}</h1>
        <p className="quiet flex justify-between gap-3">
          <span>
            {shared.length > SHOWN ? `The first ${count(SHOWN)} of ${count(shared.length)}.` : `${count(shared.length)} in all.`} People who
            were erased or lost the address since are not shown.
          </span>
          <a className="font-semibold text-verdigris" href={`/screening/compare/${id}/shared`} download>
            Save as CSV
          </a>
        </p>
        {shared.length === 0 ? (
          <p className="mt-6 text-soft">Nothing is shared.</p>
        ) : (
          <table className="people mt-4" aria-label={`Shared with ${name}`}>
            <thead>
              <tr>
                <th scope="col">Person</th>
                <th scope="col">Channel</th>
                <th scope="col">Address or number</th>
              </tr>
            </thead>
            <tbody>
              {shared.slice(0, SHOWN).map((own) => (
                <tr key={`${own.channel} ${own.value} ${own.person}`}>
                  <td>
                    <Link href={`/directory/people/${own.person}`}>{own.name}</Link>
                  </td>
                  <td>{CHANNEL_TITLE[own.channel]}</td>
                  <td>{own.value}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </div>
    </main>
  )
}
