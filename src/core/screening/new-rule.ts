import { newRuleId, RULES, type Rule, type RuleName } from './rules'

/** A rule of a kind with its usual settings and an id that none of some rules has. */
export function newRule(kind: RuleName, rules: readonly Rule[]): Rule {
  const usual = RULES[kind].usual as Omit<Rule, 'id' | 'kind'>
  return { ...usual, id: newRuleId(kind, rules), kind } as Rule
}
