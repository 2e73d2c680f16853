'use client'

import { courseOf } from '@/core/checks/course'
import { quantile } from '@/core/checks/plan'
import { shareText } from '@/core/text/written'
import type { FitCheckView } from '@/core/views/fit-views'
import { LineChart } from '@/ui/book/line-chart'

/** How the share that fits moved with each verdict, beside the wanted share. Its last figures stand in the table above it. */
export function FitChart({ check }: { check: FitCheckView }) {
  const course = courseOf(
    [...check.seen].reverse().map(({ verdict }) => verdict),
    quantile(check.plan),
  )
  const last = course.at(-1)
  if (!last || course.length < 2) return null
  const { wanted } = check.plan
  return (
    <section aria-label="How the share moved" className="mt-4">
      <LineChart
        label={`Chart of the share that fits, person by person: after ${last.seen} it is ${shareText(last.share)}, between ${shareText(last.low)} and ${shareText(last.high)}; ${shareText(wanted)} are wanted. Left and right go from person to person.`}
        points={course.map(({ seen }) => String(seen))}
        lines={[
          { title: 'Fit', colour: '--color-verdigris', dash: [], point: false, values: course.map(({ share }) => share) },
          { title: 'At least', colour: '--color-soft', dash: [2, 3], point: false, values: course.map(({ low }) => low) },
          { title: 'At most', colour: '--color-soft', dash: [6, 3], point: false, values: course.map(({ high }) => high) },
          { title: 'Wanted', colour: '--color-ink', dash: [8, 3, 2, 3], point: false, values: course.map(() => wanted) },
        ]}
        height={170}
        most={1}
        said={shareText}
      />
      <p className="quiet">In the order they were seen, each counted alike; the table weighs them by where they come from.</p>
    </section>
  )
}
