import Link from 'next/link'
import { useAnswer } from '@/ui/book/use-answer'
import { count } from '@/ui/book/figures'

const KINDS = [
  ['organisations', 'Organisation'],
  ['premises', 'Premises'],
] as const

type Hit = { id: number; name: string; town: string | null }
type Hits = { total: number; organisations?: Hit[]; premises?: Hit[] }

/** How long after the last letter these are searched, in milliseconds: people come first. */
const PAUSE = 200

/** So many of each kind are named. */
const FIRST = 3

/** Organisations and premises that what was typed finds beside people, each with its kind before it. */
export function OtherHits({ find, onShow }: { find: string; onShow: (show: 'organisations' | 'premises') => void }) {
  const asked = find.trim() === '' ? null : { find, sort: 'name', offset: 0 }
  const organisations = useAnswer<Hits>('/api/organisations', asked, PAUSE)
  const premises = useAnswer<Hits>('/api/premises', asked, PAUSE)
  // Both or neither: what stands below does not jump twice.
  const found =
    organisations && premises
      ? KINDS.map(([key, kind]) => {
          const { total, ...page } = { organisations, premises }[key]
          return { key, kind, total, first: (page[key] ?? []).slice(0, FIRST) }
        }).filter(({ total }) => total > 0)
      : []
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
