import { coverText, isOff, type Rule, ruleNamed, ruleText } from './rules'

/** How one set of rules differs from another, rule by rule: by the ids that rules keep for life. */
export type RuleDifference =
  | { is: 'added'; rule: Rule }
  | { is: 'removed'; rule: Rule }
  | { is: 'changed'; rule: Rule; before: Rule }
  | { is: 'moved'; rule: Rule }

/**
 * What differs between two sets of rules. The register that is in use is no part of a policy, so its file does not count. A rule
 * counts as moved where the rules that both sets have stand in another order: the fewest whose moving gives the new order.
 */
export function ruleDifferences(before: readonly Rule[], after: readonly Rule[]): RuleDifference[] {
  const plain = (rule: Rule) => JSON.stringify(Object.entries(withoutFile(rule)).sort(([a], [b]) => (a < b ? -1 : 1)))
  const was = new Map(before.map((rule) => [rule.id, rule]))
  const kept = after.filter((rule) => was.has(rule.id))
  const still = longestInOrder(kept.map((rule) => before.findIndex((own) => own.id === rule.id)))
  return [
    ...before.filter((rule) => !after.some((own) => own.id === rule.id)).map((rule) => ({ is: 'removed' as const, rule })),
    ...after.flatMap((rule): RuleDifference[] => {
      const earlier = was.get(rule.id)
      if (!earlier) return [{ is: 'added', rule }]
      const moved: RuleDifference[] = still.has(kept.indexOf(rule)) ? [] : [{ is: 'moved', rule }]
      return plain(earlier) === plain(rule) ? moved : [{ is: 'changed', rule, before: earlier }, ...moved]
    }),
  ]
}

/** A difference in words, as in “Contacted in the last 30 days: now 21 days”. */
export function differenceText(difference: RuleDifference, before: readonly Rule[], after: readonly Rule[]): string {
  const { rule } = difference
  switch (difference.is) {
    case 'added':
      return `${ruleText(rule)}: added`
    case 'removed':
      return `${ruleNamed(before, rule.id)}: removed`
    case 'moved':
      return `${ruleNamed(after, rule.id)}: moved`
    case 'changed': {
      const { before: earlier } = difference
      if (isOff(earlier) !== isOff(rule)) return `${ruleNamed(before, rule.id)}: switched ${isOff(rule) ? 'off' : 'on'}`
      const said = (of: Rule) => [ruleText(of), coverText(of)].filter(Boolean).join(', ')
      return said(earlier) === said(rule) ? `${said(rule)}: its settings were changed` : `${said(earlier)}: now ${said(rule).toLowerCase()}`
    }
  }
}

/** A rule as a policy has it: the register is filled in from the file that is in. */
export function withoutFile(rule: Rule): Rule {
  if (rule.kind === 'register-age') return { ...rule, version: null }
  return rule.kind === 'register' ? { ...rule, version: null, goodFor: 31 } : rule
}

/** Places of a longest rising part of some numbers (a longest increasing subsequence, by the textbook's quadratic way). */
function longestInOrder(numbers: readonly number[]): Set<number> {
  const best = numbers.map(() => 1)
  const from = numbers.map(() => -1)
  for (let i = 0; i < numbers.length; i++)
    for (let j = 0; j < i; j++)
      if (numbers[j] < numbers[i] && best[j] + 1 > best[i]) {
        best[i] = best[j] + 1
        from[i] = j
      }
  const places = new Set<number>()
  for (let i = best.indexOf(Math.max(...best)); i >= 0; i = from[i]) places.add(i)
  return places
}
