import type { FieldChange } from '@/core/views/intake-views'

/** What a row changes of a record: the field, what it was, and what it is then. */
export function Changed({ change: { field, before, after } }: { change: FieldChange }) {
  return (
    <span className="block text-[0.8125rem] break-words">
      {field}: <span className="text-soft">{before}</span> → {after}
    </span>
  )
}
