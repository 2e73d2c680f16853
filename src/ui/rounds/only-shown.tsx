import { CHANNEL_NAME } from '@/core/records/channels'
import { type Rule, ruleText } from '@/core/screening/rules'
import { count } from '@/ui/book/figures'
import { channelsIn, type RoundView } from './round-view'
import { waysClearText } from './ways-clear'

/** Says which figure of a round's account the people shown stand behind, with the way back to all; nothing where all are shown. */
export function OnlyShown({
  view,
  total,
  rule,
  onAll,
}: {
  view: RoundView
  total: number | null
  rule: Rule | undefined
  onAll: (view: RoundView) => void
}) {
  if (view.tab !== 'rule' && view.tab !== 'channel' && view.tab !== 'ways') return null
  return (
    <p className="quiet mt-2 flex justify-between gap-3">
      <span>
        Only {count(total)}{' '}
        {view.tab === 'channel'
          ? `clear by ${CHANNEL_NAME[view.channel]}`
          : view.tab === 'ways'
            ? `clear by ${waysClearText(channelsIn(view.channels))}`
            : `whose ${CHANNEL_NAME[view.channel ?? 'email']} was closed by: ${rule ? ruleText(rule) : ''}`}
      </span>
      <button
        type="button"
        className="font-semibold whitespace-nowrap text-verdigris"
        onClick={() => onAll({ tab: view.tab === 'rule' ? 'held' : 'clear' })}
      >
        Show all
      </button>
    </p>
  )
}
