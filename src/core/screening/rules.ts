import { type AddressFailedRule, addressFailed } from './address-failed'
import { type AnotherRoundRule, anotherRound } from './another-round'
import { type AskedToStopRule, askedToStop } from './asked-to-stop'
import { type ContactedWithinRule, contactedWithin } from './contacted-within'
import { type CustomersRule, customers } from './customers'
import type { RuleKind } from './kind'
import { type NoWayRule, noWayToReach } from './no-way-to-reach'
import { type RegisterRule, register } from './register'

export type Rule = NoWayRule | AskedToStopRule | RegisterRule | AddressFailedRule | CustomersRule | ContactedWithinRule | AnotherRoundRule

/** Every kind of rule there is, in the order of the policy. */
export const RULES = {
  'no-way-to-reach': noWayToReach,
  'asked-to-stop': askedToStop,
  register,
  'address-failed': addressFailed,
  customers,
  'contacted-within': contactedWithin,
  'another-round': anotherRound,
} as const

export function ruleKind(rule: Rule): RuleKind<Rule> {
  return RULES[rule.kind] as unknown as RuleKind<Rule>
}

export function isOff(rule: Rule): boolean {
  return 'off' in rule && rule.off === true
}

/** The rules a round begins with. */
export function firstPolicy(): Rule[] {
  return [
    { kind: 'no-way-to-reach' },
    { kind: 'asked-to-stop' },
    { kind: 'register', version: null, goodFor: 31 },
    { kind: 'address-failed', off: false },
    { kind: 'customers', off: false, relations: ['customer', 'our own people'] },
    { kind: 'contacted-within', off: false, days: 30, closes: 'every channel' },
    { kind: 'another-round', off: false, closes: 'every channel' },
  ]
}

/** The rules of an earlier round, with those that came into the policy since. */
export function nextPolicy(earlier: readonly Rule[]): Rule[] {
  return firstPolicy().map((rule) => earlier.find((e) => e.kind === rule.kind) ?? rule)
}

/**
 * Checks rules that came from outside: each kind once, in policy order, and none of those that cannot be switched off
 * missing. Throws an Error that names the rule and what is wrong.
 */
export function validRules(value: unknown): Rule[] {
  if (!Array.isArray(value)) throw new Error('rules are missing')
  const given = value.map((raw) => {
    const kind = RULES[raw?.kind as keyof typeof RULES]
    if (!kind) throw new Error(`no such rule: ${String(raw?.kind)}`)
    try {
      return kind.schema.validateSync(raw, { strict: true }) as Rule
    } catch (error) {
      throw new Error(`${kind.name}: ${(error as Error).message}`)
    }
  })
  return Object.entries(RULES).flatMap(([name, kind]) => {
    const rule = given.filter((r) => r.kind === name)
    if (rule.length > 1) throw new Error(`${kind.name}: stands twice`)
    if (rule.length === 0 && !kind.optional) throw new Error(`${kind.name}: cannot be left out`)
    return rule
  })
}
