import { CHANNELS, type Channel } from '@/core/records/channels'
import type { ScreeningView } from '@/core/views/round-views'

/** What of a round is shown beside its account. */
export type RoundView =
  | { tab: 'clear' | 'held' | 'through' | 'stopped' }
  | { tab: 'channel'; channel: Channel }
  | { tab: 'rule'; rule: string; channel?: Channel }
  /** Channels side by side, as an address holds them. */
  | { tab: 'ways'; channels: string }

/** The channels that an address names. */
export const channelsIn = (text: string): Channel[] => CHANNELS.filter((channel) => text.split(',').includes(channel))

/** The view as the application is asked for it. */
export const askedView = (view: RoundView): ScreeningView =>
  view.tab === 'ways' ? { tab: 'ways', channels: channelsIn(view.channels) } : view
