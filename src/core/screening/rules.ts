import { type AskedToStopRule, askedToStop } from './asked-to-stop'
import { type ContactedWithinRule, contactedWithin } from './contacted-within'
import { type CustomersRule, customers } from './customers'
import type { RuleKind } from './kind'
import { type NoWayRule, noWayToReach } from './no-way-to-reach'
import { type RegisterRule, register } from './register'

export type Rule = NoWayRule | AskedToStopRule | RegisterRule | CustomersRule | ContactedWithinRule

/** Every kind of rule there is, in the order of the policy. */
export const RULES = {
  'no-way-to-reach': noWayToReach,
  'asked-to-stop': askedToStop,
  register,
  customers,
  'contacted-within': contactedWithin,
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
    { kind: 'customers', off: false, relations: ['customer', 'our own people'] },
    { kind: 'contacted-within', off: false, days: 30, closes: 'every channel' },
  ]
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
