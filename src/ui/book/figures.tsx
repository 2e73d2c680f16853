import { countText, shortDayText } from '@/core/text/written'

/** A count with its thousands set apart; a dash while there is no answer yet. */
export const count = (n: number | undefined | null): string => (n === undefined || n === null ? '–' : countText(n))

/** A date as screens say it: the day and month, with the year where it is not this one. */
export const day = (iso: string): string => shortDayText(new Date(iso))

const TONE = { out: 'text-madder', unknown: 'text-ochre', in: 'text-verdigris', plain: '' } as const

/** A figure of an account. Zero is left blank; where people can be shown behind it, it is a button. */
export function Figure({
  value,
  tone,
  label,
  chosen,
  onChoose,
}: {
  value: number | undefined
  tone: keyof typeof TONE
  label: string
  chosen?: boolean
  onChoose?: () => void
}) {
  if (value === undefined) return <span className="text-soft">–</span>
  if (value === 0) return <span className="sr-only">0</span>
  if (!onChoose) return <span className={TONE[tone]}>{count(value)}</span>
  return (
    <button
      type="button"
      className={`${TONE[tone]} rounded px-0.5 tabular-nums hover:underline ${chosen ? 'underline decoration-2 underline-offset-4' : ''}`}
      aria-label={`${label}: ${count(value)}`}
      aria-pressed={chosen ?? false}
      onClick={onChoose}
    >
      {count(value)}
    </button>
  )
}
