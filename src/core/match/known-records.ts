import { blockKeys } from './blocks'
import { type Agreement, type Comparable, compare } from './compare'
import { probability, weight, type Weights } from './estimate'
import { DOUBT, LARGEST_BLOCK, rarityOf } from './pairs'

/** One in so many rows of a file is somebody known already (common practice, no source). */
const ROWS_KNOWN = 0.2
/** A directory of fewer is taken to have as many: in a small one a name would count for too much. */
const LEAST_SIZE = 5000
/** What an email or a phone that is not the same but like it may add, in bits; who shares one exactly is found by its key. */
const UNSEEN = 3
/** What all but the names may add at most, in bits, the rarity of a name among it. */
const MOST_ADDED = 30
/** Places are numbered with so many bits, keys with the rest of the 53 a number holds exactly: eight million records. */
const PLACES = 2 ** 23
/** So many keys are kept apart until they are sorted in among the others. */
const FRESH = 200_000

const NOBODY: Comparable = { given: '', family: '', organisation: '', street: '', postcode: '', town: '', emails: [], phones: [] }

type Kept = Pick<Comparable, 'given' | 'family' | 'organisation' | 'street' | 'postcode' | 'town'>
const KEPT = ['given', 'family', 'organisation', 'street', 'postcode', 'town'] as const

/**
 * The records of a directory, so compactly that a million are held at hand (about 90 bytes each), to find for a row those
 * that may be the same. Emails and phones are not held: who shares one exactly is found by its key in the database, and
 * whoever is found here should be compared anew with them.
 */
export class KnownRecords {
  private readonly words = new Words()
  private columns: Record<keyof Kept, Int32Array>
  private ids: Float64Array
  private count = 0
  /** Keys and the places of records under them, as key × PLACES + place, in order. */
  private sorted = new Float64Array(0)
  private fresh = new Map<number, number[]>()
  private freshKeys = 0
  private readonly seen = { given: new Map<string, number>(), family: new Map<string, number>() }
  private rare: { at: number; of: ReturnType<typeof rarityOf> } | null = null
  private readonly known = new Map<number, number>()

  constructor(
    private readonly weights: Weights,
    expected = 1024,
  ) {
    this.ids = new Float64Array(expected)
    this.columns = Object.fromEntries(KEPT.map((field) => [field, new Int32Array(expected)])) as Record<keyof Kept, Int32Array>
  }

  get size(): number {
    return this.count
  }

  add(id: number, record: Comparable): void {
    if (this.count === PLACES) return
    const place = this.count++
    if (place >= this.ids.length) this.grow()
    this.ids[place] = id
    // Of a street only whether it is the same can be told from here, so its hash is enough.
    for (const field of KEPT) this.columns[field][place] = field === 'street' ? hash(record.street) : this.words.code(record[field])
    for (const field of ['given', 'family'] as const)
      if (record[field]) this.seen[field].set(record[field], (this.seen[field].get(record[field]) ?? 0) + 1)
    for (const key of new Set(blockKeys({ ...record, emails: [], phones: [] }).map(hash))) {
      const block = this.fresh.get(key)
      if (block) block.push(place)
      else this.fresh.set(key, [place])
      this.freshKeys++
    }
    if (this.freshKeys >= Math.max(FRESH, this.sorted.length / 4)) this.settle()
  }

  /** Sorts in what was added, so that it takes less room. */
  settle(): void {
    const fresh = new Float64Array(this.freshKeys)
    let at = 0
    for (const [key, places] of this.fresh) for (const place of places) fresh[at++] = key * PLACES + place
    fresh.sort()
    const both = new Float64Array(this.sorted.length + fresh.length)
    for (let i = 0, a = 0, b = 0; i < both.length; i++)
      both[i] = b >= fresh.length || (a < this.sorted.length && this.sorted[a] < fresh[b]) ? this.sorted[a++] : fresh[b++]
    this.sorted = both
    this.fresh = new Map()
    this.freshKeys = 0
  }

  /** The ids of at most so many records that may be the same as a row, the likeliest first; only those added after the first `from`. */
  find(row: Comparable, most = 6, from = 0): number[] {
    const places = new Set<number>()
    for (const key of new Set(blockKeys({ ...row, emails: [], phones: [] }).map(hash))) this.block(key, from, places)
    const found: { place: number; bits: number }[] = []
    // Many share a name, and whoever has another altogether need not be looked at further.
    const names = new Map<number, boolean>()
    for (const place of places) {
      const name = this.columns.given[place] * 2 ** 26 + this.columns.family[place]
      let possible = names.get(name)
      if (possible === undefined) {
        const alone = compare(row, {
          ...NOBODY,
          given: this.words.word(this.columns.given[place]),
          family: this.words.word(this.columns.family[place]),
        })
        possible = probability(this.bits(alone) + MOST_ADDED) >= DOUBT
        names.set(name, possible)
      }
      if (!possible) continue
      const agreement = compare(row, this.record(place, row))
      // An email or phone is not at hand here.
      const bits = this.bits(agreement) + this.rarity()(row, agreement)
      if (probability(bits + UNSEEN) >= DOUBT) found.push({ place, bits })
    }
    return found
      .sort((a, b) => b.bits - a.bits || a.place - b.place)
      .slice(0, most)
      .map(({ place }) => this.ids[place])
  }

  /** Whether a folded word is a given name here: several people have it, who would not all make one slip. */
  isGiven(name: string): boolean {
    return (this.seen.given.get(name) ?? 0) >= 3
  }

  /** How likely a record is the same as a row, from 0 to 1, and how far the two agree. */
  likeness(row: Comparable, record: Comparable): { chance: number; agreement: Agreement } {
    const agreement = compare(row, record)
    return { chance: probability(this.bits(agreement) + this.rarity()(row, agreement)), agreement }
  }

  private bits(agreement: Agreement): number {
    let key = 0
    for (const level of agreement) key = key * 8 + level + 1
    let bits = this.known.get(key)
    if (bits === undefined) {
      // How many of all possible pairs are one depends on the file and the directory, not on where the weights are from.
      const { prior } = this.weights
      bits = weight(agreement, this.weights) - Math.log2(prior / (1 - prior))
      this.known.set(key, bits)
    }
    const prior = ROWS_KNOWN / Math.max(LEAST_SIZE, this.count)
    return bits + Math.log2(prior / (1 - prior))
  }

  private rarity(): ReturnType<typeof rarityOf> {
    if (!this.rare || this.count > this.rare.at * 1.1 + 100)
      this.rare = { at: this.count, of: rarityOf(this.seen, Math.max(1, this.count)) }
    return this.rare.of
  }

  private block(key: number, from: number, into: Set<number>): void {
    const { sorted } = this
    let [low, high] = [0, sorted.length]
    while (low < high) {
      const middle = (low + high) >>> 1
      if (sorted[middle] < key * PLACES) low = middle + 1
      else high = middle
    }
    const end = low + LARGEST_BLOCK
    if (end < sorted.length && sorted[end] < (key + 1) * PLACES) return
    for (let at = low; at < sorted.length && sorted[at] < (key + 1) * PLACES; at++)
      if (sorted[at] % PLACES >= from) into.add(sorted[at] % PLACES)
    const fresh = this.fresh.get(key)
    if (fresh && fresh.length <= LARGEST_BLOCK) for (const place of fresh) if (place >= from) into.add(place)
  }

  private record(place: number, row: Comparable): Comparable {
    const of = (field: keyof Kept) => this.words.word(this.columns[field][place])
    return {
      given: of('given'),
      family: of('family'),
      organisation: of('organisation'),
      postcode: of('postcode'),
      town: of('town'),
      street: row.street && this.columns.street[place] === hash(row.street) ? row.street : '',
      emails: [],
      phones: [],
    }
  }

  private grow(): void {
    const longer = <T extends Float64Array | Int32Array>(from: T, to: T): T => {
      to.set(from)
      return to
    }
    const length = Math.ceil(this.ids.length * 1.5)
    this.ids = longer(this.ids, new Float64Array(length))
    for (const field of KEPT) this.columns[field] = longer(this.columns[field], new Int32Array(length))
  }
}

/** Every word once, by its number. */
class Words {
  private readonly codes = new Map<string, number>()
  private readonly all: string[] = []

  code(word: string): number {
    let code = this.codes.get(word)
    if (code === undefined) {
      code = this.all.push(word) - 1
      this.codes.set(word, code)
    }
    return code
  }

  word(code: number): string {
    return this.all[code]
  }
}

/** FNV-1a over UTF-16 units, its low 30 bits. Source: IETF draft-eastlake-fnv. */
function hash(text: string): number {
  let h = 0x811c9dc5
  for (let i = 0; i < text.length; i++) h = Math.imul(h ^ text.charCodeAt(i), 0x01000193)
  return h & 0x3fffffff
}
