import type { RoundState } from '@/core/views/round-views'
import type { Stone } from './arch'

/** The seven stones of a round. Contact and results stay plain and unlabelled until their steps are built. */
export function roundStones(
  state: RoundState | null,
  links: { requalify?: string; screen?: string; check?: string } = {},
  check: { passed: boolean; ended: boolean } | null = null,
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
    { title: ' ', state: 'plain' },
    { title: '  ', state: 'plain' },
    { title: 'Close', state: state === 'closed' ? 'done' : out ? 'now' : 'to come' },
  ]
}
