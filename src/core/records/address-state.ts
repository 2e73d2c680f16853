/** Whose an address or number is, and what is known of it: packed into one byte of the column. */
export interface AddressTraits {
  /** Email: at a provider for everybody. Phone: colleagues have the number too. */
  shared: boolean
  state: AddressState
}

/** What checks have shown of an email address, or calls of a number. The order is that of the codes in columns. */
export const EMAIL_STATES = ['unchecked', 'verified', 'uncertain', 'bad'] as const
export const PHONE_STATES = ['not tried', 'reached', 'wrong', 'out of service'] as const
export type AddressState = (typeof EMAIL_STATES)[number] | (typeof PHONE_STATES)[number] | null

/** One byte: whether it is shared, and the place of its state among those of its channel. */
export const packTraits = (shared: boolean, place: number): number => (shared ? 1 : 0) | (place << 1)
/** Whether an address is shared, by its packed state. */
export const isShared = (traits: number): boolean => (traits & 1) === 1
/** Returns the place of an address's state, by its packed state. */
export const placeOfState = (traits: number): number => traits >> 1

/** The place of a state in the order of its channel; post has none. */
export function placeOf(state: AddressState): number {
  const email = (EMAIL_STATES as readonly (string | null)[]).indexOf(state)
  return email >= 0 ? email : Math.max(0, (PHONE_STATES as readonly (string | null)[]).indexOf(state))
}
