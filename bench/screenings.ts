import type { Line } from '@/core/lists/line'
import { newRule } from '@/core/screening/new-rule'
import type { Rule } from '@/core/screening/rules'
import { askEngine } from '@/engine/client'
import { page, questions, Seeded, SHAPES } from './lists'
import { record, rules, screening, timed } from './measuring'

export const wide = page(questions(SHAPES[0], new Seeded(99)).filter((q) => q.criterion.kind !== 'area'))

/** Twelve rules: those of the first policy, and one of each kind that looks at many people. */
function twelve(days: number): Rule[] {
  const all: Rule[] = rules.map((r) => (r.kind === 'contacted-within' ? { ...r, days } : r))
  for (const [kind, of] of [
    ['contacted-within', { days: 10, counted: 'organisation' }],
    ['attempts', { most: 3 }],
    ['address-quality', {}],
    ['per-organisation', { most: 5, days: 30 }],
    ['same-address', {}],
  ] as const)
    all.push({ ...newRule(kind, all), ...of } as Rule)
  return all
}

/** Screening of long and short lists by twelve rules and four channels, after a rule was edited. */
export async function screenings(): Promise<void> {
  await screeningOf('a long list', wide)
  await screeningOf('a short list', [
    ...wide,
    { id: 'short', verb: 'limit', off: false, most: 20_000, per: 'all', rank: 'first in the directory', seed: 0 } as Line,
  ])
}

async function screeningOf(what: string, lines: Line[]): Promise<void> {
  const screen = (days: number) =>
    askEngine('screen', {
      lines,
      named: {},
      rules: twelve(days),
      moment: screening,
      view: { tab: 'held' },
      page: { offset: 0, limit: 60 },
    })
  const first = await screen(1)
  const screens: number[] = []
  for (let days = 2; days < 62; days++) screens.push((await timed(() => screen(days)))[0])
  record(
    `screening account of ${what} after one of twelve rules was edited`,
    screens,
    what === 'a long list' ? 'p95 100 ms' : 'p95 30 ms',
    `${first.figures.opening.toLocaleString('en')} listed, ${first.figures.anyone.toLocaleString('en')} clear`,
  )
}
