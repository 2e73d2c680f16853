import type { RoundPage } from '@/core/views/round-views'
import { count, day } from '@/ui/book/figures'

/** What a round says under its title: when it was opened, released and closed, and by whom. */
export function roundSubtitle(round: RoundPage): string {
  if (round.closedAt)
    return `Released ${day(round.releasedAt as string)} by ${round.by}, closed ${day(round.closedAt)} · as it was frozen then`
  if (round.releasedAt)
    return `Released ${day(round.releasedAt)} by ${round.by} · frozen as of then · ${count(round.toCome.open)} of ${count(round.toCome.all)} contacts to come`
  return `Opened ${day(round.startedAt)} by ${round.by} · counts follow the directory until it is released`
}
