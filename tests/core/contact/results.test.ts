import { describe, expect, test } from 'vitest'
import { ALL_RESULTS, resultMeant } from '@/core/records/results'

/**
 * RFC 3463, section 2: the class of an enhanced status code is 2 (success), 4 (persistent transient failure) or 5 (permanent failure).
 * Codes and their names are those of its sections 3.2 to 3.8.
 */
const CODES = [
  ['5.1.1', 'bad destination mailbox address', 'bounced'],
  ['5.1.2', 'bad destination system address', 'bounced'],
  ['5.1.6', 'destination mailbox has moved, no forwarding address', 'bounced'],
  ['5.2.1', 'mailbox disabled, not accepting messages', 'bounced'],
  ['5.7.1', 'delivery not authorized, message refused', 'bounced'],
  ['4.2.2', 'mailbox full', 'soft bounced'],
  ['4.3.1', 'mail system full', 'soft bounced'],
  ['4.4.1', 'no answer from host', 'soft bounced'],
  ['4.4.7', 'delivery time expired', 'soft bounced'],
] as const

describe('what a status code of a delivery means', () => {
  test.each(CODES)('%s: %s', (code, name, result) => {
    expect(resultMeant(code)).toBe(result)
    expect(resultMeant(`${code} ${name}`)).toBe(result)
    expect(resultMeant(` ${code[0]}50 ${code} ${name}`)).toBe(result)
  })

  test('is read in codes alone: not in a success, a version, an address on the net, or a number within words', () => {
    for (const text of ['2.1.5', '5.1', '5.1.1.1', '5.1.1234', '4', 'ring on 4.2.2026', 'room 5.1.1']) expect(resultMeant(text)).toBe(text)
  })
})

test('results are known however they are written; other words stay as they are', () => {
  for (const result of ALL_RESULTS) expect(resultMeant(` ${result.toUpperCase()} `)).toBe(result)
  expect(['Hard bounce', 'soft-bounce', 'Soft Bounced'].map(resultMeant)).toEqual(['bounced', 'soft bounced', 'soft bounced'])
  expect(['Left the company', 'no longer works here', 'HAS LEFT'].map(resultMeant)).toEqual(['has left', 'has left', 'has left'])
  // A card or a message was left: nobody has.
  expect(['Left a card', 'left', 'left message'].map(resultMeant)).toEqual(['Left a card', 'left', 'left message'])
  expect(resultMeant('  ')).toBe(null)
})
