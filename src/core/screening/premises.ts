import type { Reason } from '../records/suppression'

/** What screening premises for post rests on: whether a letter can be addressed, and what holds their address and whom it would go to. */
export interface ScreenedPremises {
  id: number
  postable: boolean
  /** Why letters to the address are suppressed; null where they are not. */
  address: Reason | null
  /** The same of the household there, and of the owner. */
  household: Reason | null
  owner: Reason | null
}

/** The rules that premises pass, in their order; the first that closes decides. */
export const PREMISES_RULES = ['no postal address', 'address', 'household', 'owner'] as const
export type PremisesRule = (typeof PREMISES_RULES)[number]

export const PREMISES_RULE_NAME: Record<PremisesRule, string> = {
  'no postal address': 'No postal address',
  address: 'Address asked to stop, or held back',
  household: 'Household asked to stop, or held back',
  owner: 'Owner asked to stop, or held back',
}

/** Why no letter may go to some premises; null where one may. */
export function heldPremises(of: ScreenedPremises): { rule: PremisesRule; reason: Reason | null } | null {
  if (!of.postable) return { rule: 'no postal address', reason: null }
  for (const rule of ['address', 'household', 'owner'] as const) if (of[rule] !== null) return { rule, reason: of[rule] }
  return null
}

export interface PremisesFigures {
  opening: number
  rules: { rule: PremisesRule; out: number; balance: number }[]
  clear: number
}

/** The account of a list of premises screened for post: each is closed by one rule or is clear. */
export function premisesFigures(all: Iterable<ScreenedPremises>): PremisesFigures {
  const outs = new Map<PremisesRule, number>()
  let opening = 0
  for (const of of all) {
    opening++
    const held = heldPremises(of)
    if (held) outs.set(held.rule, (outs.get(held.rule) ?? 0) + 1)
  }
  let balance = opening
  const rules = PREMISES_RULES.map((rule) => {
    const out = outs.get(rule) ?? 0
    balance -= out
    return { rule, out, balance }
  })
  return { opening, rules, clear: balance }
}
