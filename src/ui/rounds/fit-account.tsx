import type { FitCheckView } from '@/core/views/fit-views'
import { shareText } from '@/core/text/written'
import { count } from '@/ui/book/figures'

/** The sample as an account: by where people come from, how many there are, were seen and fit, and how sure that is. */
export function FitAccount({ check }: { check: FitCheckView }) {
  const sum = (of: 'size' | 'seen' | 'fit') => check.strata.reduce((all, own) => all + own[of], 0)
  const { wanted } = check.plan
  const poor = (low: number, high: number, seen: number) => seen > 0 && high < wanted && low < wanted
  return (
    <table className="account" aria-label="Fit account">
      <thead>
        <tr>
          <th scope="col">Where they come from</th>
          <th scope="col" className="figure">
            Clear
          </th>
          <th scope="col" className="figure">
            Seen
          </th>
          <th scope="col" className="figure">
            Fit
          </th>
          <th scope="col" className="pl-4!">
            How sure
          </th>
        </tr>
      </thead>
      <tbody>
        {check.strata.map((own) => (
          <tr key={`${own.title} ${own.detail}`} className={poor(own.low, own.high, own.seen) ? 'in-hand' : ''}>
            <td>
              {own.title}
              {own.detail && <span className="quiet block">{own.detail}</span>}
            </td>
            <td className="figure">{count(own.size)}</td>
            <td className="figure">{count(own.seen)}</td>
            <td className={`figure ${poor(own.low, own.high, own.seen) ? 'text-madder' : ''}`}>{count(own.fit)}</td>
            <td className="pl-4!">
              <Bar {...own} wanted={wanted} />
            </td>
          </tr>
        ))}
        <tr className="total" data-testid="fit-total">
          <td>
            All, weighted by size
            {check.covers < sum('size') && check.covers > 0 && (
              <span className="quiet block font-normal">covers {count(check.covers)}; nobody of the others was seen</span>
            )}
          </td>
          <td className="figure">{count(sum('size'))}</td>
          <td className="figure">{count(sum('seen'))}</td>
          <td className="figure">{count(sum('fit'))}</td>
          <td className="pl-4! whitespace-nowrap">
            {check.share === null ? (
              '–'
            ) : (
              <>
                {shareText(check.share)}{' '}
                <span className="quiet font-normal">
                  {shareText(check.low)} to {shareText(check.high)}
                </span>
              </>
            )}
          </td>
        </tr>
      </tbody>
    </table>
  )
}

/** The interval of a share as a bar from nought to all, with the share and the wanted share marked. Its figures stand in its name. */
function Bar({ seen, fit, low, high, wanted }: { seen: number; fit: number; low: number; high: number; wanted: number }) {
  const said = seen === 0 ? 'nobody seen' : `${shareText(fit / seen)}, between ${shareText(low)} and ${shareText(high)}`
  return (
    <svg width="150" height="14" viewBox="0 0 150 14" role="img" aria-label={said}>
      <title>{said}</title>
      <rect x="0" y="4" width="150" height="6" rx="3" fill="var(--color-wash)" />
      {seen > 0 && (
        <rect x={low * 150} y="3" width={Math.max(2, (high - low) * 150)} height="8" fill="var(--color-verdigris)" opacity="0.4" />
      )}
      <line x1={wanted * 150} x2={wanted * 150} y1="1" y2="13" stroke="var(--color-ink)" />
      {seen > 0 && <rect x={Math.min(148, (fit / seen) * 150 - 1)} y="1" width="2.5" height="12" fill="var(--color-verdigris)" />}
    </svg>
  )
}
