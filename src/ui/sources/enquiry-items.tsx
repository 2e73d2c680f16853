'use client'

import Link from 'next/link'
import type { ItemState, ItemView } from '@/core/sources/enquiry'
import { useGrowing } from '@/ui/book/asking'
import { count } from '@/ui/book/figures'

interface Items {
  total: number
  items: ItemView[]
}

/** Things an enquiry asked about that stand one way; of what was found, by which channels it could be reached. */
export function EnquiryItems({
  id,
  state,
  title,
  channels,
  said,
}: {
  id: number
  state: ItemState
  title: string
  channels: boolean
  /** What a list would make of each that is not paid for. */
  said: ReadonlyMap<number, string> | null
}) {
  const { pages, told, more } = useGrowing<Items>(
    (offset) => [`/api/enquiries/${id}/items?state=${encodeURIComponent(state)}&offset=${offset}`],
    (page) => page.items.length,
    { failed: 'The items could not be shown.' },
  )
  const items = pages.length > 0 ? { total: pages[pages.length - 1].total, items: pages.flatMap((page) => page.items) } : null
  const whyOf = (item: ItemView) => (state === 'open' ? said?.get(item.n) : undefined) ?? item.why
  const why = items?.items.some((item) => whyOf(item) !== null)
  return (
    <>
      <h2>
        {title} {items && count(items.total)}
      </h2>
      {told && <p className="told">{told}</p>}
      {items?.total === 0 && <p className="mt-3 text-soft">None.</p>}
      {items && items.items.length > 0 && (
        <table className="people mt-2" aria-label={title}>
          <thead>
            <tr>
              <th scope="col">Who</th>
              {channels && (
                <th scope="col" className="w-[170px]">
                  Can be reached by
                </th>
              )}
              {why && (
                <th scope="col" className="w-[34%]">
                  {channels ? 'Why' : 'What came of it'}
                </th>
              )}
            </tr>
          </thead>
          <tbody>
            {items.items.map((item) => (
              <tr key={item.n}>
                <td className="break-words">
                  {item.person === null ? (
                    <b className="font-semibold">{item.title}</b>
                  ) : (
                    <Link prefetch={false} href={`/directory/people/${item.person}`}>
                      {item.title}
                    </Link>
                  )}
                  <span className="quiet block">{item.detail}</span>
                </td>
                {channels && <td>{item.has.join(', ') || <span className="text-soft">–</span>}</td>}
                {why && <td className="quiet break-words">{whyOf(item) ?? ''}</td>}
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {items && more && (
        <button type="button" className="button mt-3" onClick={more}>
          Show more of {count(items.total)}
        </button>
      )}
    </>
  )
}
