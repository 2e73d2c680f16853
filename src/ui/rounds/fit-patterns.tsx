import { useState } from 'react'
import type { FitCheckView, FitPatternView } from '@/core/views/fit-views'
import { useAsked } from '@/ui/book/asking'
import { count } from '@/ui/book/figures'

/** What those who do not belong share, each as a line that would take it out. */
export function FitPatterns({
  round,
  check,
  mayEdit,
  mayMake,
  onMake,
}: {
  round: number
  check: FitCheckView
  mayEdit: boolean
  mayMake: boolean
  onMake: (pattern: string, sentence: string) => Promise<void>
}) {
  const [busy, setBusy] = useState(false)
  const unfit = check.tally['does not']
  const { answer: patterns, told } = useAsked<FitPatternView[]>(unfit >= 2 && mayMake ? [`/api/rounds/${round}/fit/patterns`] : null, {
    also: `${check.id} ${check.tally.fits} ${unfit} ${check.changed}`,
    hold: true,
  })
  if (unfit < 2 || !mayMake) return null
  return (
    <section className="mt-5" aria-label="What they share">
      <h2 className="text-[15px]">What the {count(unfit)} who don’t belong share</h2>
      {told && <p className="told">{told}</p>}
      {patterns?.length === 0 && (
        <p className="quiet">Nothing stands out beyond chance. Look at more people, or tighten the list yourself.</p>
      )}
      <ul>
        {(patterns ?? []).map((own) => (
          <li key={own.id} className="flex items-start justify-between gap-4 border-b border-rule py-2">
            <div>
              <p>{own.changes ? `Count unknown as no: ${own.sentence}` : own.sentence}</p>
              <p className="quiet">
                {count(own.unfit)} of {count(own.allUnfit)} who don’t belong, {own.fit === 0 ? 'none' : count(own.fit)} of{' '}
                {count(own.allFit)} who do · {chanceText(own.chance)}
                {own.fit > 0 ? ' · look at those who fit first' : ''}
              </p>
            </div>
            <div className="flex items-center gap-3 whitespace-nowrap">
              <span>
                <span className="text-madder">{count(own.on - own.after)}</span> <span className="quiet">out</span>{' '}
                <b className="ml-2">{count(own.after)}</b> <span className="quiet">stay on the list</span>
              </span>
              <button
                type="button"
                className="button"
                disabled={busy}
                onClick={async () => {
                  setBusy(true)
                  await onMake(own.id, own.sentence)
                  setBusy(false)
                }}
              >
                {own.changes ? (mayEdit ? 'Change the line' : 'Propose the change') : mayEdit ? 'Make it a line' : 'Propose it'}
              </button>
            </div>
          </li>
        ))}
      </ul>
    </section>
  )
}

/** How often chance alone would do it, after all that was tried. */
function chanceText(chance: number): string {
  if (chance >= 0.01) return `chance alone: up to ${Math.ceil(chance * 100)} times in 100`
  return `chance alone: less than once in ${count(10 ** Math.floor(-Math.log10(Math.max(chance, 1e-9))))}`
}
