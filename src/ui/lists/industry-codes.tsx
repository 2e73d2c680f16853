'use client'

import { useState } from 'react'
import { codesBeside } from '@/core/clean/industry-code'
import { useAsked } from '@/ui/book/asking'
import { count } from '@/ui/book/figures'

interface Found {
  industries: { code: string; title: string }[]
  titles: Record<string, string>
}

/** So many codes of those on the page are shown, the most common first. */
const MOST = 30

/** Codes of industries that those on the page have, those beside the chosen ones first; and any, found by words of its title. */
export function IndustryCodes({
  chosen,
  onChoose,
  counts,
}: {
  chosen: string[]
  onChoose: (code: string) => void
  counts: Map<string, number> | null
}) {
  const [find, setFind] = useState('')
  const here = counts ? [...counts.keys()].filter((code) => !chosen.includes(code)) : []
  const beside = codesBeside(chosen, here)
  const shown = [...beside, ...here.filter((code) => !beside.includes(code))].slice(0, MOST)
  const wanted = shown.map((code) => `code=${encodeURIComponent(code)}`).join('&')
  const titles = useAsked<Found>(wanted === '' ? null : [`/api/industries?${wanted}`], { hold: true }).answer?.titles ?? {}
  const short = find.trim().length < 3
  const hits = useAsked<Found>(short ? null : [`/api/industries?find=${encodeURIComponent(find)}`], { hold: true })
  const found = short ? [] : (hits.answer?.industries ?? [])
  return (
    <>
      <Codes
        label="Codes of the records on the list"
        codes={shown.map((code) => ({
          code,
          title: titles[code] ?? '',
          note: `${beside.includes(code) ? 'beside · ' : ''}${count(counts?.get(code) ?? 0)}`,
        }))}
        onChoose={onChoose}
      />
      <label className="field mt-2">
        <span>Find a code by its words</span>
        <input type="search" value={find} onChange={(e) => setFind(e.target.value)} />
      </label>
      <Codes
        label="Codes found"
        codes={found.filter(({ code }) => !chosen.includes(code)).map((industry) => ({ ...industry, note: '' }))}
        onChoose={onChoose}
      />
      {find.trim().length >= 3 && found.length === 0 && <p className="quiet mt-1">No industry found.</p>}
    </>
  )
}

function Codes({
  label,
  codes,
  onChoose,
}: {
  label: string
  codes: { code: string; title: string; note: string }[]
  onChoose: (code: string) => void
}) {
  if (codes.length === 0) return null
  return (
    <ul aria-label={label} className="mt-1 max-h-[150px] overflow-y-auto" tabIndex={0}>
      {codes.map(({ code, title, note }) => (
        <li key={code}>
          <button
            type="button"
            className="flex w-full gap-2 rounded px-1 py-0.5 text-left text-[13px] hover:bg-page"
            onClick={() => onChoose(code)}
          >
            <span className="grow">
              <b className="font-semibold">{code}</b> {title}
            </span>
            <span className="whitespace-nowrap text-soft tabular-nums">{note}</span>
          </button>
        </li>
      ))}
    </ul>
  )
}
