import Link from 'next/link'
import { differenceText, ruleDifferences } from '@/core/screening/differences'
import type { PolicyPage } from '@/core/views/policy-views'
import { day } from '@/ui/book/figures'

/** The editions of a policy, the newest first, each with what differs from the one before it; and the lists it screens. */
export function PolicyEditions({ policy }: { policy: PolicyPage }) {
  return (
    <>
      <h2 className="mt-6">Editions</h2>
      <ol className="mt-2 grid gap-3" aria-label="Editions">
        {policy.editions.map((edition, i) => {
          const before = policy.editions[i + 1]
          const said = before ? ruleDifferences(before.rules, edition.rules).map((d) => differenceText(d, before.rules, edition.rules)) : []
          return (
            <li key={edition.number} className="border-b border-rule pb-2">
              <b>Edition {edition.number}</b>{' '}
              <span className="quiet">
                {day(edition.at)}
                {edition.by ? ` by ${edition.by}` : ', came with the application'}
                {edition.why && ` · “${edition.why}”`}
              </span>
              {said.length > 0 && (
                <ul className="mt-1 grid gap-0.5 text-[13.5px]">
                  {said.map((text) => (
                    <li key={text}>{text}</li>
                  ))}
                </ul>
              )}
            </li>
          )
        })}
      </ol>
      <h2 className="mt-6">Lists</h2>
      {policy.isDefault && <p className="quiet">Every list that chose no other policy goes by this one.</p>}
      {policy.lists.length === 0 && !policy.isDefault && (
        <p className="quiet">No list has chosen this policy. Choose it on a list’s page.</p>
      )}
      <ul className="mt-1 grid gap-1">
        {policy.lists.map(({ id, name }) => (
          <li key={id}>
            <Link prefetch={false} href={`/lists/${id}`} className="font-semibold no-underline hover:underline">
              {name}
            </Link>
          </li>
        ))}
      </ul>
    </>
  )
}
