'use client'

import { Check } from 'lucide-react'
import Link from 'next/link'
import { useEffect, useState } from 'react'
import type { FirstStep } from '@/core/views/first-step'

const SKIPPED = 'first steps skipped'

/** The five steps of a book that was just opened: what is done, what comes next. Whoever skips them sees them no more on this machine. */
export function FirstSteps({ steps }: { steps: FirstStep[] }) {
  const [skipped, setSkipped] = useState<boolean | null>(null)
  useEffect(() => setSkipped(localStorage.getItem(SKIPPED) === 'yes'), [])
  if (skipped !== false) return null
  const next = steps.findIndex((step) => !step.done)
  return (
    <section aria-label="First steps" className="mt-4 rounded-lg border border-rule bg-leaf p-4">
      <div className="flex items-baseline justify-between gap-3">
        <h2>From the first file to the first list</h2>
        <button
          type="button"
          className="font-semibold text-verdigris"
          onClick={() => {
            localStorage.setItem(SKIPPED, 'yes')
            setSkipped(true)
          }}
        >
          Skip the steps
        </button>
      </div>
      <ol className="mt-2 grid gap-2">
        {steps.map((step, i) => (
          <li key={step.title} className="flex items-start gap-3" aria-current={i === next ? 'step' : undefined}>
            <span
              className={`mt-0.5 grid size-6 shrink-0 place-items-center rounded-full text-[13px] font-bold ${step.done ? 'bg-verdigris text-white' : i === next ? 'bg-ochre-wash text-ochre' : 'bg-page text-soft'}`}
            >
              {step.done ? <Check size={14} aria-hidden="true" /> : i + 1}
            </span>
            <span className="min-w-0 grow">
              <b>{step.title}</b>
              {step.done && <span className="sr-only">, done</span>}
              <span className="quiet block">{step.what}</span>
            </span>
            {i === next && step.href !== '/lists' && (
              <Link href={step.href} className="button button-main shrink-0 no-underline">
                {step.act}
              </Link>
            )}
          </li>
        ))}
      </ol>
    </section>
  )
}
