import { LRUCache } from 'lru-cache'
import type { Bitset } from '@/core/columns/bitset'
import type { SubjectColumns } from '@/core/columns/subject-columns'
import { unpackIds } from './packed-ids'

/** So many are kept: a bit a record each, and the packed ids they came as. */
const MOST = 8

/** Who was on lists when people looked before, kept as sets between one question and the next until a record changes. */
export class Looks {
  private kept = new LRUCache<string, { columns: SubjectColumns; version: number; set: Bitset }>({ max: MOST })

  /** Those of some packed ids (base64) that are in the columns now. */
  get(packed: string, columns: SubjectColumns): Bitset {
    const known = this.kept.get(packed)
    if (known && known.columns === columns && known.version === columns.version) return known.set
    const set = columns.numbersNow(unpackIds(Buffer.from(packed, 'base64')))
    this.kept.set(packed, { columns, version: columns.version, set })
    return set
  }
}
