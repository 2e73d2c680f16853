import type { Agreement } from './compare'
import { toldApart } from './estimate'
import { DOUBT, SAME } from './pairs'
import type { Match } from './same'

/** Somebody a row may be, with how likely and how far the two agree. */
export interface Likely {
  id: number
  chance: number
  agreement: Agreement
  /** Both have an outside id, and not the same. */
  otherId?: boolean
}

const MOST_SHOWN = 5

/**
 * What a row is by how likely it is each of some records, once no key has decided. Same: one alone from SAME up, unless a
 * name tells the two apart or the outside ids do. In doubt: anyone from DOUBT up. New: nobody.
 */
export function scored(candidates: Likely[]): Match {
  const likely = candidates.filter(({ chance }) => chance >= DOUBT).sort((a, b) => b.chance - a.chance || a.id - b.id)
  const sure = likely.filter(({ chance, agreement, otherId }) => chance >= SAME && !toldApart(agreement) && !otherId)
  if (sure.length === 1) return { is: 'same', id: sure[0].id, by: `likeness, ${percent(sure[0].chance)}` }
  // Whom another outside id speaks against is somebody else, unless all but that says the same.
  const asked = likely.filter(({ chance, otherId }) => !otherId || chance >= SAME)
  if (asked.length === 0) return { is: 'new' }
  const why =
    sure.length > 1
      ? 'it is as like one as another of these'
      : `it is ${percent(asked[0].chance)} likely ${asked.length > 1 ? 'the first of these' : 'this record'}`
  return { is: 'in doubt', ids: asked.slice(0, MOST_SHOWN).map(({ id }) => id), why }
}

function percent(chance: number): string {
  return chance > 0.995 ? 'over 99 %' : `${Math.floor(chance * 100)} %`
}
