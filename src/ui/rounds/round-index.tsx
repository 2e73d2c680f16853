import Link from 'next/link'
import type { RoundIndexRow } from '@/core/views/round-views'
import { Arch } from './arch'
import { count, day } from '@/ui/book/figures'
import { roundStones } from './round-stones'
import { Spread } from '@/ui/book/spread'

const standText = ({ subject, clear, listed, toCome }: RoundIndexRow): string =>
  subject === 'premises'
    ? `letters about ${count(clear)} of ${count(listed)} premises · ${count(toCome)} to post`
    : `${count(clear)} clear of ${count(listed)} · ${count(toCome)} contacts to come`

/** Every round: those under way on the left leaf, those that are closed on the right. */
export function RoundIndex({ rounds }: { rounds: RoundIndexRow[] }) {
  const open = rounds.filter((r) => r.state !== 'closed')
  const closed = rounds.filter((r) => r.state === 'closed')
  return (
    <Spread
      label={{ left: 'Rounds under way', right: 'Closed rounds' }}
      width="50%"
      left={
        <>
          <h1>Rounds</h1>
          <p className="quiet">One outreach on one list: requalified, screened, released, closed.</p>
          {open.length === 0 && <p className="mt-6 text-soft">No round is under way. Open a list to start its next one.</p>}
          <ul className="mt-4 grid gap-3">
            {open.map((round) => (
              <li key={round.id} className="flex items-center gap-4 rounded-lg border border-rule bg-leaf px-4 py-3">
                <Arch stones={roundStones(round.state)} width={84} />
                <span>
                  <Link prefetch={false} href={`/rounds/${round.id}`} className="font-semibold no-underline hover:underline">
                    Round {round.called} · {round.list}
                  </Link>
                  <span className="quiet block">
                    {round.state === 'released'
                      ? `Released ${day(round.at)} by ${round.by} · ${standText(round)}`
                      : `Being built since ${day(round.at)} by ${round.by}; screening is next`}
                  </span>
                </span>
              </li>
            ))}
          </ul>
        </>
      }
      right={
        <>
          <h2>Closed</h2>
          {closed.length === 0 ? (
            <p className="mt-3 text-soft">No round has been closed yet.</p>
          ) : (
            <table className="account mt-2">
              <thead>
                <tr>
                  <th scope="col">Round</th>
                  <th scope="col">Closed</th>
                  <th scope="col" className="figure">
                    Listed
                  </th>
                  <th scope="col" className="figure balance">
                    Clear
                  </th>
                </tr>
              </thead>
              <tbody>
                {closed.map((round) => (
                  <tr key={round.id}>
                    <td>
                      <Link prefetch={false} href={`/rounds/${round.id}`} className="font-semibold no-underline hover:underline">
                        Round {round.called}
                      </Link>
                      <span className="quiet block">{round.list}</span>
                    </td>
                    <td>{day(round.at)}</td>
                    <td className="figure">{count(round.listed)}</td>
                    <td className="figure balance">{count(round.clear)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </>
      }
    />
  )
}
