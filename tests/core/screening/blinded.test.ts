import { ristretto255, ristretto255_hasher } from '@noble/curves/ed25519.js'
import { expand_message_xmd } from '@noble/curves/abstract/hash-to-curve.js'
import { sha512 } from '@noble/hashes/sha2.js'
import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import {
  blinded,
  blindedAgain,
  comparedText,
  digestOf,
  expanded,
  firstWrong,
  newSecret,
  readFile,
  sharedPlaces,
  SUITE,
  writeFile,
} from '@/core/screening/blinded'
import { readFileSync } from 'node:fs'

const TAG = 'arch-ledger-comparison-v1-ristretto255_XMD:SHA-512_R255MAP_RO_'
const hex = (bytes: Uint8Array) => Buffer.from(bytes).toString('hex')
const bytes = (text: string) => new Uint8Array(Buffer.from(text, 'hex'))
const one = bytes('01'.padEnd(64, '0'))

/** RFC 9496, appendix A.1: the first multiples of the generator (from memory, held against @noble/curves). */
const MULTIPLES = [
  'e2f2ae0a6abc4e71a884a961c500515f58e30b6aa582dd8db6a65945e08d2d76',
  '6a493210f7499cd17fecb510ae0cea23a110e8d5b901f8acadd3095c73a3b919',
]

/** RFC 9496, appendix A.2: encodings that must be refused (from memory, each held against @noble/curves). */
const REFUSED = [
  // Not canonical.
  '00ffffffffffffffffffffffffffffffffffffffffffffffffffffffffffffff',
  'f3ffffffffffffffffffffffffffffffffffffffffffffffffffffffffffffff7f'.slice(0, 64),
  'edffffffffffffffffffffffffffffffffffffffffffffffffffffffffffff7f',
  // Negative.
  '0100000000000000000000000000000000000000000000000000000000000000',
  '01ffffffffffffffffffffffffffffffffffffffffffffffffffffffffffff7f',
  // Not a square.
  '26948d35ca62e643e26a83177332e6b6afeb9d08e4268b650f1f5bbd8d81d371',
]

describe('the group, against @noble/curves', () => {
  test('a text is hashed as RFC 9380 says, and multiplied as RFC 9496 does', async () => {
    await fc.assert(
      fc.asyncProperty(fc.string({ unit: 'binary' }), async (text) => {
        const message = new TextEncoder().encode(text)
        expect(hex(await expanded(text))).toBe(hex(expand_message_xmd(message, new TextEncoder().encode(TAG), 64, sha512)))
        const secret = await newSecret()
        const element = ristretto255_hasher.hashToCurve(message, { DST: TAG })
        const [own] = await blinded([text], secret)
        expect(hex(own)).toBe(element.multiply(ristretto255.Point.Fn.fromBytes(secret)).toHex())
      }),
      { numRuns: 25 },
    )
  })

  test('multiples of the generator are those of the RFC, and what is no element is refused', async () => {
    for (const [i, multiple] of MULTIPLES.entries()) {
      expect(ristretto255.Point.BASE.multiply(BigInt(i + 1)).toHex()).toBe(multiple)
      const [own] = await blindedAgain(
        [bytes(MULTIPLES[0])],
        bytes(
          String(i + 1)
            .padStart(2, '0')
            .padEnd(64, '0'),
        ),
      )
      expect(hex(own)).toBe(multiple)
    }
    for (const wrong of REFUSED) {
      expect(() => ristretto255.Point.fromHex(wrong)).toThrow()
      expect(await firstWrong([bytes(MULTIPLES[0]), bytes(wrong)])).toBe(1)
    }
    // The identity is an element and hides nothing.
    expect(await firstWrong([bytes('0'.repeat(64))])).toBe(0)
  })

  test('the worked example of docs/formats.md is what comes out', async () => {
    const example = /```json comparison\n([\s\S]+?)```/.exec(readFileSync('docs/formats.md', 'utf8'))?.[1]
    const rows: { text: string; element: string; twice: string }[] = JSON.parse(example ?? '')
    expect(rows.length).toBeGreaterThan(2)
    const two = bytes('02'.padEnd(64, '0'))
    for (const { text, element, twice } of rows) {
      expect(hex((await blinded([text], one))[0])).toBe(element)
      expect(hex((await blinded([text], two))[0])).toBe(twice)
      expect(ristretto255_hasher.hashToCurve(new TextEncoder().encode(text), { DST: TAG }).toHex()).toBe(element)
    }
  })
})

describe('a comparison', () => {
  const texts = fc.uniqueArray(fc.constantFrom(...Array.from({ length: 12 }, (_, i) => `phone:+4413449600${i + 10}`)))
  test('gives each side those both have and no others, whatever order the elements are in', async () => {
    await fc.assert(
      fc.asyncProperty(texts, texts, async (ours, theirs) => {
        const [a, b] = [await newSecret(), await newSecret()]
        const [offerA, offerB] = [await blinded(ours, a), await blinded(theirs, b)]
        const [answerToA, answerToB] = [await blindedAgain(offerA, b), await blindedAgain(offerB, a)]
        expect((await sharedPlaces(answerToA, answerToB)).map((i) => ours[i])).toEqual(ours.filter((text) => theirs.includes(text)))
        expect((await sharedPlaces(answerToB, answerToA)).map((i) => theirs[i])).toEqual(theirs.filter((text) => ours.includes(text)))
        // What is sent tells nothing by itself: not even equal texts look alike before both have blinded them.
        expect(await sharedPlaces(offerA, offerB)).toEqual([])
      }),
      { numRuns: 20 },
    )
  })

  test('writes addresses and numbers the same on both sides', () => {
    expect(comparedText('email', 'Ann@North.example')).toBe('email:ann@north.example')
    expect(comparedText('email', 'Zoë@north.example')).toBe('email:zoë@north.example')
    expect(comparedText('phone', '+441134960001')).toBe('phone:+441134960001')
  })
})

describe('its files', () => {
  const offer = async () => ({ part: 'offer' as const, elements: await blinded(['a', 'b'], await newSecret()) })
  test('are read as they were written', async () => {
    const own = await offer()
    expect(await readFile(await writeFile(own))).toEqual(own)
    const answer = { part: 'answer' as const, of: await digestOf(own.elements), elements: own.elements }
    expect(await readFile(await writeFile(answer))).toEqual(answer)
  })

  test('are refused with what is wrong in them', async () => {
    const own = JSON.parse(Buffer.from(await writeFile(await offer())).toString())
    const read = (file: unknown) => readFile(Buffer.from(typeof file === 'string' ? file : JSON.stringify(file)))
    await expect(read('no file')).rejects.toThrow('it is no JSON')
    await expect(read([])).rejects.toThrow('no file of a comparison')
    await expect(read({})).rejects.toThrow(/no file of a comparison|holds no elements|by which recipe/)
    await expect(read({ ...own, comparison: 'letter' })).rejects.toThrow('neither an offer nor an answer')
    await expect(read({ ...own, suite: 'P256' })).rejects.toThrow(`another recipe than ${SUITE}`)
    await expect(read({ ...own, elements: [own.elements[0], 'zz'] })).rejects.toThrow(
      'its element 2 is not written as 64 hexadecimal digits',
    )
    await expect(read({ ...own, elements: [own.elements[0], REFUSED[0]] })).rejects.toThrow('its element 2 is no element of the group')
    await expect(read({ ...own, elements: [own.elements[0], own.elements[0]] })).rejects.toThrow('it holds an element twice')
    await expect(read({ ...own, comparison: 'answer' })).rejects.toThrow('which offer it answers')
    await expect(read({ ...own, elements: Array(100_001).fill(own.elements[0]) })).rejects.toThrow('more than 100,000 elements')
  })
})
