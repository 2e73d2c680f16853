import Link from 'next/link'
import type { RoundPage } from '@/core/views/round-views'
import { count } from '@/ui/book/figures'

/** Says of a supplement which round it belongs to, with the way to drop it while it is being built. */
export function SupplementOf({ round, busy, onDrop }: { round: RoundPage; busy: boolean; onDrop: () => void }) {
  const { base } = round
  if (!base) return null
  return (
    <p className="said mt-2 flex items-center gap-3" data-testid="supplement">
      <span>
        Goes out under <Link href={`/rounds/${base.id}`}>round {base.called}</Link>, to people who came onto the list since. Nobody who is
        in that round already, clear or held back, is in this supplement.
      </span>
      {round.state === 'being built' && round.mayRelease && (
        <button type="button" className="button ml-auto" disabled={busy} onClick={onDrop}>
          Drop supplement
        </button>
      )}
    </p>
  )
}

/** The supplements of a round that is out, with the way to add one. */
export function Supplements({ round, busy, onAdd }: { round: RoundPage; busy: boolean; onAdd: () => void }) {
  const { supplements } = round
  const mayAdd = round.state === 'released' && round.mayRelease && !round.base
  if (supplements.length === 0 && !mayAdd) return null
  const building = supplements.find(({ state }) => state === 'being built')
  return (
    <section aria-label="Supplements" className="mt-4">
      <h2>Supplements</h2>
      {supplements.length > 0 && (
        <ul className="mt-1 grid gap-0.5">
          {supplements.map(({ id, called, state, clear }) => (
            <li key={id}>
              <Link href={`/rounds/${id}`}>Round {called}</Link>{' '}
              {clear === null ? state : `${count(clear)} ${clear === 1 ? 'person' : 'people'}, ${state}`}
            </li>
          ))}
        </ul>
      )}
      {mayAdd && !building && (
        <p className="mt-1.5 flex items-center gap-3">
          <button type="button" className="button" disabled={busy} onClick={onAdd}>
            Add supplement
          </button>
          <span className="quiet">For people who came onto the list since the release: screened and released by itself.</span>
        </p>
      )}
    </section>
  )
}
