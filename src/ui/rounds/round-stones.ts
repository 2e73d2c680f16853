import type { RoundState } from '@/core/views/round-views'
import type { Stone } from './arch'

/** The seven stones of a round. `toContact`: somebody who was released has not been contacted yet. */
export function roundStones(
  state: RoundState | null,
  links: { requalify?: string; screen?: string; check?: string; contact?: string; results?: string } = {},
  check: { passed: boolean; ended: boolean } | null = null,
  toContact = true,
): Stone[] {
  const out = state === 'released' || state === 'closed'
  return [
    { title: 'Requalify', state: state === null ? 'now' : 'done', href: links.requalify },
    { title: 'Screen', state: state === null ? 'to come' : out ? 'done' : 'now', href: links.screen },
    // A round may go out unchecked: then its stone stays empty.
    {
      title: 'Check',
      state: check === null ? 'to come' : check.passed || check.ended ? 'done' : out ? 'to come' : 'now',
      href: links.check,
    },
    { title: 'Release', state: out ? 'done' : 'to come' },
    { title: 'Contact', state: !out ? 'to come' : state === 'closed' || !toContact ? 'done' : 'now', href: links.contact },
    { title: 'Results', state: !out ? 'to come' : state === 'closed' ? 'done' : 'now', href: links.results },
    { title: 'Close', state: state === 'closed' ? 'done' : out ? 'now' : 'to come' },
  ]
}
