import Link from 'next/link'
import type { PairView } from '@/core/views/record-views'

/** Which rows show how far the two agree, and by what was compared. */
const COMPARED: Record<string, string[]> = {
  name: ['family', 'given'],
  organisation: ['organisation'],
  address: ['address'],
  email: ['email'],
  phone: ['phone'],
}

/** Two records side by side, field by field, with how far they agree; and which of the two stays where they are one. */
export function PairTable({ pair, keep, onKeep }: { pair: PairView; keep: number; onKeep?: (id: number) => void }) {
  const { a, b, agrees } = pair
  return (
    <table className="people mt-2" aria-label="Two records">
      <colgroup>
        <col className="w-[16%]" />
        <col className="w-[34%]" />
        <col className="w-[34%]" />
        <col />
      </colgroup>
      <thead>
        <tr>
          <th scope="col">
            <span className="sr-only">Field</span>
          </th>
          {[a, b].map((side) => (
            <th key={side.id} scope="col">
              <label className="flex items-center gap-1.5">
                <input type="radio" name="keep" checked={keep === side.id} disabled={!onKeep} onChange={() => onKeep?.(side.id)} />
                {keep === side.id ? 'This one stays' : 'Goes into the other'}
              </label>
            </th>
          ))}
          <th scope="col">Agrees</th>
        </tr>
      </thead>
      <tbody>
        <AgreeRows sides={[a, b]} agrees={agrees} />
      </tbody>
    </table>
  )
}

/** Two sides field by field, with how far they agree. A side that is no record yet has no page to go to. */
export function AgreeRows({ sides, agrees }: { sides: { id?: number; fields: Record<string, string> }[]; agrees: PairView['agrees'] }) {
  return Object.keys(sides[1].fields).map((field) => {
    const levels = agrees.filter((x) => COMPARED[field]?.includes(x.field) && x.level !== null)
    return (
      <tr key={field}>
        <th scope="row" className="text-left font-normal text-soft">
          {field}
        </th>
        {sides.map((side) => (
          <td key={side.id ?? 0} className="break-words">
            {field !== 'name' ? (
              side.fields[field] || <span className="text-soft">–</span>
            ) : side.id === undefined ? (
              <b className="font-semibold">{side.fields[field]}</b>
            ) : (
              <Link prefetch={false} href={`/directory/people/${side.id}`} className="font-semibold no-underline hover:underline">
                {side.fields[field]}
              </Link>
            )}
          </td>
        ))}
        <td>
          {levels.map(({ field: of, level, rank }) => (
            <span
              key={of}
              className={`block text-[12.5px] ${rank === 0 ? 'text-madder' : rank === 1 || level === 'same' ? 'text-verdigris' : 'text-ochre'}`}
            >
              {levels.length > 1 ? `${of}: ${level}` : level}
            </span>
          ))}
        </td>
      </tr>
    )
  })
}
