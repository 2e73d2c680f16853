import sodium from 'libsodium-wrappers-sumo'
import { array, object, string } from 'yup'
import type { Channel } from '../records/channels'

/**
 * Finding what two organisations both have without either showing it to the other: a private set intersection by Diffie and Hellman's
 * exchange. Each hashes its texts to elements of a group and multiplies them by a secret of its own; each multiplies what the other
 * sent by the same secret. Whatever both have comes out the same, since multiplying commutes, and of the rest nobody can tell what it was.
 * The group is ristretto255 (RFC 9496).
 */
export const SUITE = 'ristretto255-SHA512'

/** Tells texts that are hashed here from those hashed for anything else (RFC 9380, section 3.1). */
const TAG = 'arch-ledger-comparison-v1-ristretto255_XMD:SHA-512_R255MAP_RO_'
/** Bytes of an element and of a secret. */
export const LENGTH = 32
/** More elements are not taken from one file. */
export const MOST = 100_000

const bytesOf = (text: string) => new TextEncoder().encode(text)
const hex = (bytes: Uint8Array): string => sodium.to_hex(bytes)

function joined(parts: readonly Uint8Array[]): Uint8Array {
  const whole = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0))
  let at = 0
  for (const part of parts) {
    whole.set(part, at)
    at += part.length
  }
  return whole
}

/** 64 uniform bytes of a text: expand_message_xmd with SHA-512 (RFC 9380, section 5.3.1), where one block is enough. */
export async function expanded(text: string): Promise<Uint8Array> {
  await sodium.ready
  return uniform(text)
}

function uniform(text: string): Uint8Array {
  const tag = bytesOf(TAG)
  const suffix = joined([tag, Uint8Array.of(tag.length)])
  const first = sodium.crypto_hash_sha512(joined([new Uint8Array(128), bytesOf(text), Uint8Array.of(0, 64, 0), suffix]))
  return sodium.crypto_hash_sha512(joined([first, Uint8Array.of(1), suffix]))
}

/** What stands for an address or number in a comparison: both sides must write it the same. */
export const comparedText = (channel: Exclude<Channel, 'post'>, value: string): string =>
  `${channel}:${channel === 'phone' ? value : value.normalize('NFC').toLowerCase()}`

/** A secret to multiply by: a random number below the order of the group, never zero. */
export async function newSecret(): Promise<Uint8Array> {
  await sodium.ready
  return sodium.crypto_core_ristretto255_scalar_random()
}

/** The element of a text, times a secret (hash_to_ristretto255, RFC 9380, appendix B). */
export async function blinded(texts: readonly string[], secret: Uint8Array): Promise<Uint8Array[]> {
  await sodium.ready
  return inTurns(texts, (text) => sodium.crypto_scalarmult_ristretto255(secret, sodium.crypto_core_ristretto255_from_hash(uniform(text))))
}

/** Elements that somebody else made, times a secret. Throws where one is none: not of the group, or its identity (RFC 9496, section 4.3.1). */
export async function blindedAgain(elements: readonly Uint8Array[], secret: Uint8Array): Promise<Uint8Array[]> {
  await sodium.ready
  return inTurns(elements, (element) => sodium.crypto_scalarmult_ristretto255(secret, element))
}

/** The place of the first that is no element of the group or its identity; −1 where all are. */
export async function firstWrong(elements: readonly Uint8Array[]): Promise<number> {
  await sodium.ready
  const right = await inTurns(
    elements,
    (element) => sodium.crypto_core_ristretto255_is_valid_point(element) && element.some((byte) => byte !== 0),
  )
  return right.indexOf(false)
}

/** The places of those of `mine` that are among `theirs`, both blinded by both. */
export async function sharedPlaces(mine: readonly Uint8Array[], theirs: readonly Uint8Array[]): Promise<number[]> {
  await sodium.ready
  const known = new Set(theirs.map(hex))
  return mine.flatMap((element, i) => (known.has(hex(element)) ? [i] : []))
}

/** Does some at a time, so that whoever shares the process is not kept waiting. */
async function inTurns<A, B>(all: readonly A[], work: (one: A) => B): Promise<B[]> {
  const done: B[] = []
  for (const [i, one] of all.entries()) {
    if (i % 200 === 199) await new Promise((resolve) => setTimeout(resolve))
    done.push(work(one))
  }
  return done
}

/** Names the elements of an offer: SHA-256 of their bytes one after the other, in hexadecimal. */
export async function digestOf(elements: readonly Uint8Array[]): Promise<string> {
  await sodium.ready
  return hex(sodium.crypto_hash_sha256(joined(elements)))
}

/** A file of a comparison: an offer, each of our elements in any order; or an answer, those of an offer blinded again in its order. */
export type ComparisonFile = { part: 'offer'; elements: Uint8Array[] } | { part: 'answer'; of: string; elements: Uint8Array[] }

const FILE = object({
  comparison: string()
    .oneOf(['offer', 'answer'] as const, 'it is neither an offer nor an answer of a comparison')
    .required('it is no file of a comparison'),
  suite: string().oneOf([SUITE], `it is made by another recipe than ${SUITE}`).required('it does not say by which recipe it is made'),
  of: string().matches(/^[0-9a-f]{64}$/, 'it does not say which offer it answers'),
  elements: array(string().strict().required())
    .max(MOST, `it holds more than ${MOST.toLocaleString('en-GB')} elements`)
    .required('it holds no elements'),
})

/** Returns the bytes of a file of a comparison. Every element is a point of ristretto255, as hexadecimal digits. */
export async function writeFile(file: ComparisonFile): Promise<Uint8Array> {
  await sodium.ready
  const { part, elements } = file
  const head = { comparison: part, suite: SUITE, ...(file.part === 'answer' ? { of: file.of } : {}) }
  return bytesOf(`${JSON.stringify({ ...head, elements: elements.map(hex) }, null, 1)}\n`)
}

/** Reads a file of a comparison. Throws an error whose message says what is wrong with it. */
export async function readFile(bytes: Uint8Array): Promise<ComparisonFile> {
  let given: unknown
  try {
    given = JSON.parse(new TextDecoder().decode(bytes))
  } catch {
    throw new Error('it is no JSON')
  }
  if (typeof given !== 'object' || given === null || Array.isArray(given)) throw new Error('it is no file of a comparison')
  const { comparison: part, of, elements: texts } = FILE.validateSync(given, { strict: true })
  const wrong = texts.findIndex((text) => !/^[0-9a-f]{64}$/.test(text))
  if (wrong >= 0) throw new Error(`its element ${wrong + 1} is not written as 64 hexadecimal digits`)
  await sodium.ready
  const elements = texts.map((text) => sodium.from_hex(text))
  const none = await firstWrong(elements)
  if (none >= 0) throw new Error(`its element ${none + 1} is no element of the group`)
  if (part === 'offer') {
    if (new Set(texts).size < texts.length) throw new Error('it holds an element twice')
    return { part, elements }
  }
  if (of === undefined) throw new Error('it does not say which offer it answers')
  return { part, of, elements }
}
