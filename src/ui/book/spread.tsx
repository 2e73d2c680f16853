import type { ReactNode } from 'react'

/** A spread: the account on the left leaf, the records on the right one. `left` is the width of the left leaf. */
export function Spread({
  left,
  right,
  width = '555px',
  label,
}: {
  left: ReactNode
  right: ReactNode
  width?: string
  label: { left: string; right: string }
}) {
  return (
    <main className="spread" style={{ '--left': width } as React.CSSProperties}>
      {/* Leaves scroll by themselves, so each can be reached and scrolled from the keyboard. */}
      <section className="leaf leaf-left" aria-label={label.left} tabIndex={0}>
        {left}
      </section>
      <section className="leaf leaf-right" aria-label={label.right} tabIndex={0} id="records">
        {right}
      </section>
    </main>
  )
}
