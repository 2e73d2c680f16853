import { countryName } from '../clean/country'
import { addressBlock } from '../labels/address-block'
import type { PremisesLetter } from '../rounds/premises-letters'

/** So many lines has an address on an envelope in a file of letters; what is longer runs on in the last. */
const LINES = 7

/** The columns of a file of letters: the address by its parts, then as it stands on the envelope, line by line. */
export const LETTERS_HEADING = [
  'Letter',
  'Addressee',
  'Street',
  'Town',
  'Postcode',
  'Country',
  'Premises',
  'Number of premises',
  ...Array.from({ length: LINES }, (_, i) => `Line ${i + 1}`),
]

/** The lines of a letter as they stand on an envelope. `home` is the country it is sent from (ISO 3166-1 alpha-2). */
export const letterBlock = (
  letter: Pick<PremisesLetter, 'addressee' | 'country'> & { postal: PremisesLetter['postal'] },
  home: string,
): string[] => addressBlock({ name: letter.addressee, organisation: null, ...letter.postal, country: letter.country }, home)

/** The rows of a file of letters, in their order. */
export function lettersRows(letters: readonly PremisesLetter[], home: string): string[][] {
  return letters.map((letter, i) => {
    const block = letterBlock(letter, home)
    const lines = block.length <= LINES ? block : [...block.slice(0, LINES - 1), block.slice(LINES - 1).join(', ')]
    return [
      String(i + 1),
      letter.addressee,
      letter.postal.street ?? '',
      letter.postal.town ?? '',
      letter.postal.postcode ?? '',
      letter.country === null ? '' : countryName(letter.country),
      letter.about,
      String(letter.premises.length),
      ...Array.from({ length: LINES }, (_, n) => lines[n] ?? ''),
    ]
  })
}
