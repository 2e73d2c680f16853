import Link from 'next/link'
import { useEffect, useState } from 'react'
import { ask } from '@/ui/book/ask'
import { count } from '@/ui/book/figures'

const KINDS = [
  ['organisations', 'Organisation', '/api/organisations'],
  ['premises', 'Premises', '/api/premises'],
] as const

interface Hits {
  of: string
  found: { key: 'organisations' | 'premises'; kind: string; total: number; first: { id: number; name: string; town: string | null }[] }[]
}

/** So many of each kind are named. */
const FIRST = 3

/** Organisations and premises that what was typed finds beside people, each with its kind before it. */
export function OtherHits({ find, onShow }: { find: string; onShow: (show: 'organisations' | 'premises') => void }) {
  const [hits, setHits] = useState<Hits>({ of: '', found: [] })
  useEffect(() => {
    if (find.trim() === '') return
    const abort = new AbortController()
    const timer = setTimeout(() => {
      Promise.all(
        KINDS.map(async ([key, kind, url]) => {
          const page = await ask<{ total: number } & Record<string, { id: number; name: string; town: string | null }[]>>(
            url,
            { find, sort: 'name', offset: 0 },
            abort.signal,
          )
          return { key, kind, total: page.total, first: page[key].slice(0, FIRST) }
        }),
      ).then(
        (found) => setHits({ of: find, found }),
        () => {},
      )
    }, 200)
    return () => {
      clearTimeout(timer)
      abort.abort()
    }
  }, [find])
  const found = hits.of === find ? hits.found.filter(({ total }) => total > 0) : []
  if (found.length === 0) return null
  return (
    <section aria-label="Found besides people" className="grid grid-cols-2 gap-x-6 border-b border-rule px-2 py-1.5">
      {found.map(({ key, kind, total, first }) => (
        <ul key={key} className="min-w-0">
          {first.map((hit) => (
            <li key={hit.id} className="truncate">
              <span className="quiet inline-block w-[92px]">{kind}</span>
              <Link prefetch={false} href={`/directory/${key}/${hit.id}`} className="font-semibold no-underline hover:underline">
                {hit.name}
              </Link>
              {hit.town && <span className="quiet"> · {hit.town}</span>}
            </li>
          ))}
          {total > first.length && (
            <li>
              <button type="button" className="ml-[92px] min-h-6 font-semibold text-verdigris" onClick={() => onShow(key)}>
                All {count(total)} {key}
              </button>
            </li>
          )}
        </ul>
      ))}
    </section>
  )
}
