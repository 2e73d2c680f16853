'use client'

import { type ReactNode, useEffect, useRef } from 'react'

/** A spread: the account on the left leaf, the records on the right one. F6 goes from one to the other. `left` is the width of the left leaf. */
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
  const main = useRef<HTMLElement>(null)
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== 'F6' || event.ctrlKey || event.altKey || event.metaKey) return
      const leaves = [...(main.current?.querySelectorAll<HTMLElement>(':scope > .leaf') ?? [])]
      if (leaves.length < 2) return
      event.preventDefault()
      const here = leaves.findIndex((leaf) => leaf.contains(document.activeElement))
      leaves[(here + 1) % leaves.length].focus()
    }
    document.addEventListener('keydown', onKey)
    return () => document.removeEventListener('keydown', onKey)
  }, [])
  return (
    <main ref={main} className="spread" style={{ '--left': width } as React.CSSProperties}>
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
