import { array, boolean, number, object, string } from 'yup'
import { OWNER_KINDS, type OwnerKind } from '../clean/premises'
import { squeeze } from '../clean/name'

/** To whom the letters of a round of premises go: whoever lives or works there, or whoever owns them, at the owner's own address. */
export const RECIPIENTS = ['occupier', 'owner'] as const
export type Recipient = (typeof RECIPIENTS)[number]

/** How a letter to whoever is there is addressed. */
export const WORDINGS = ['name', 'name or resident', 'resident', 'household'] as const
export type Wording = (typeof WORDINGS)[number]

/** By what the premises of a letter about several are ordered, before the first of them are named. */
export const NAMED_FIRST = ['latest', 'largest', 'name'] as const
export type NamedFirst = (typeof NAMED_FIRST)[number]

/** How the letters of a round of premises are addressed, and what their round leaves out. */
export interface LetterChoice {
  to: Recipient
  wording: Wording
  /** What stands on the envelope for whoever is there, where nobody is named. */
  resident: string
  /** Kinds of owners that get no letter. */
  without: OwnerKind[]
  /** Whether owners abroad get letters. */
  abroad: boolean
  /** Whether customers and our own people get letters. */
  customers: boolean
  /** An address that got a letter within so many days gets none; null: it may. */
  restDays: number | null
  /** Whether an address to which an earlier round of the list sent one gets none. */
  onlyNew: boolean
  first: NamedFirst
  /** So many premises a letter names at most. */
  most: number
  /** What a letter costs with its postage, at home and abroad, in minor units of the team's money; null where it is not told. */
  costHome: number | null
  costAbroad: number | null
}

export const FIRST_CHOICE: LetterChoice = {
  to: 'occupier',
  wording: 'name or resident',
  resident: 'Current resident',
  without: [],
  abroad: true,
  customers: false,
  restDays: 30,
  onlyNew: false,
  first: 'latest',
  most: 3,
  costHome: null,
  costAbroad: null,
}

const price = () =>
  number()
    .typeError('A price is a number of pence or cents.')
    .integer('Whole pence or cents.')
    .min(0)
    .max(1_000_000, 'A letter costs less than that.')
    .nullable()
    .default(null)

const schema = object({
  to: string().oneOf(RECIPIENTS, 'Choose whether letters go to whoever is there or to the owners.').required(),
  wording: string().oneOf(WORDINGS, 'Choose how the letters are addressed.').required(),
  resident: string()
    .transform((text) => squeeze(String(text ?? '')))
    .min(3, 'Give what stands on the envelope where nobody is named, such as “Current resident”.')
    .max(60, 'What stands on the envelope for a name has at most 60 characters.')
    .default(''),
  without: array(string().oneOf(OWNER_KINDS, 'There is no such kind of owner.').required()).required(),
  abroad: boolean().required(),
  customers: boolean().required(),
  restDays: number()
    .typeError('The days since the last letter are a number.')
    .integer('Whole days.')
    .min(1, 'One day at least.')
    .max(3650, 'Ten years at most.')
    .nullable()
    .defined(),
  onlyNew: boolean().required(),
  first: string().oneOf(NAMED_FIRST, 'Choose which premises a letter names first.').required(),
  most: number()
    .integer('A letter names one, two or three.')
    .min(1, 'A letter names one at least.')
    .max(3, 'A letter names three at most.')
    .required(),
  costHome: price(),
  costAbroad: price(),
}).required()

/** What letters cost, in minor units; null where no price is told. Abroad costs what it does at home where it has no price of its own. */
export function lettersCost(
  { letters, abroad }: { letters: number; abroad: number },
  { costHome, costAbroad }: LetterChoice,
): number | null {
  if (costHome === null && costAbroad === null) return null
  return (letters - abroad) * (costHome ?? 0) + abroad * (costAbroad ?? costHome ?? 0)
}

/** A choice as it was sent. Throws a ValidationError that names what is wrong. */
export function letterChoice(raw: unknown): LetterChoice {
  const { without, ...choice } = schema.validateSync(raw, { abortEarly: false, stripUnknown: true })
  return { ...choice, without: OWNER_KINDS.filter((kind) => without.includes(kind)) }
}
