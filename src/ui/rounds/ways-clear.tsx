import { CHANNEL_NAME, type Channel } from '@/core/records/channels'
import type { RuleFigures, ScreeningFigures } from '@/core/screening/account'
import { count } from '@/ui/book/figures'

/** Some channels as somebody is clear by them and by no other: “email and phone”, “post only”. */
export const waysClearText = (channels: readonly Channel[]): string =>
  channels.length === 1
    ? `${CHANNEL_NAME[channels[0]]} only`
    : channels
        .map((c) => CHANNEL_NAME[c])
        .join(', ')
        .replace(/, ([^,]*)$/, ' and $1')

/** Everyone clear by exactly which channels; a press opens them. */
export function WaysClear({
  ways,
  chosen,
  onChoose,
}: {
  ways: ScreeningFigures['ways']
  chosen: readonly Channel[] | null
  onChoose: (channels: Channel[]) => void
}) {
  if (ways.length === 0) return null
  return (
    <section aria-label="Clear by which channels" className="mt-4">
      <h2 className="text-[15px]">Clear by</h2>
      <ul className="mt-1 flex flex-wrap gap-x-5 gap-y-1">
        {ways.map((way) => (
          <li key={way.channels.join()} className={chosen?.join() === way.channels.join() ? 'rounded bg-ochre-wash px-1.5' : 'px-1.5'}>
            <button
              type="button"
              className="min-h-6 text-left hover:underline"
              aria-pressed={chosen?.join() === way.channels.join()}
              onClick={() => onChoose(way.channels)}
            >
              {waysClearText(way.channels)} <b className="tabular-nums">{count(way.count)}</b>
            </button>
          </li>
        ))}
      </ul>
    </section>
  )
}

/** What a rule would close by itself, and what only it closes, under what it closed here. */
export function Besides({ figures, channel }: { figures: RuleFigures | undefined; channel: Channel }) {
  const [alone, only] = [figures?.alone?.[channel] ?? 0, figures?.onlyIt?.[channel] ?? 0]
  if (!figures?.alone || alone === 0 || (alone === figures.out[channel] && only === alone)) return null
  return (
    <span className="quiet block text-[11.5px]" title={`Alone it would close ${count(alone)}; ${count(only)} only it closes`}>
      {count(alone)} · {count(only)}
    </span>
  )
}
