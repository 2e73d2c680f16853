'use client'

import { useEffect, useState } from 'react'
import { codesBeside } from '@/core/clean/industry-code'
import { ask } from './ask'
import { Known } from './criterion-forms'

/** Codes of industries found by a word of their title, and those beside the ones that are chosen. */
export function IndustryCodes({ chosen, onChoose, counts }: { chosen: string[]; onChoose: (code: string) => void; counts: Map<string, number> | null }) {
  const [find, setFind] = useState('')
  const [found, setFound] = useState<{ code: string; title: string }[]>([])
  useEffect(() => {
    if (find.trim().length < 3) return setFound([])
    const abort = new AbortController()
    ask<{ industries: { code: string; title: string }[] }>(`/api/industries?find=${encodeURIComponent(find)}`, undefined, abort.signal).then(({ industries }) => setFound(industries), () => {})
    return () => abort.abort()
  }, [find])
  const beside = counts ? codesBeside(chosen, [...counts.keys()]) : []
  return (
    <>
      {beside.length > 0 && (
        <span className="mt-1 flex flex-wrap items-center gap-1">
          <span className="quiet">Beside these:</span>
          <Known words={beside} chosen={chosen} onChoose={onChoose} counts={counts} />
        </span>
      )}
      <label className="field mt-2">
        <span>Find a code of NAICS by its words</span>
        <input type="search" value={find} onChange={(e) => setFind(e.target.value)} />
      </label>
      {found.length > 0 && (
        <ul aria-label="Codes found" className="mt-1 max-h-[180px] overflow-y-auto">
          {found.map(({ code, title }) => (
            <li key={code}>
              <button type="button" className="w-full rounded px-1 py-0.5 text-left hover:bg-page disabled:text-soft" disabled={chosen.includes(code)} onClick={() => onChoose(code)}>
                <b className="font-semibold">{code}</b> {title}
              </button>
            </li>
          ))}
        </ul>
      )}
      {find.trim().length >= 3 && found.length === 0 && <p className="quiet mt-1">No title says this.</p>}
    </>
  )
}
