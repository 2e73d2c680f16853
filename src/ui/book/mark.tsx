/** The product's mark: an arch with its keystone. */
export function Mark({ size = 28 }: { size?: number }) {
  return (
    <svg width={size} height={(size * 24) / 28} viewBox="0 0 28 24" aria-hidden="true">
      <path d="M3 22v-8a11 11 0 0 1 22 0v8" fill="none" stroke="var(--color-verdigris)" strokeWidth="3.4" />
      <rect x="11.6" y="1.2" width="4.8" height="4.2" fill="var(--color-madder)" />
    </svg>
  )
}
