import type { LineDifference } from '@/core/views/list-views'

const TONE: Record<LineDifference['is'], string> = {
  same: 'text-soft',
  moved: 'text-ochre',
  changed: 'text-ochre',
  added: 'text-verdigris',
  removed: 'text-madder',
}

/** What became of a line, as a word in its colour. */
export function Mark({ is }: { is: LineDifference['is'] }) {
  return <span className={`text-[12.5px] font-semibold ${TONE[is]}`}>{is.slice(0, 1).toUpperCase() + is.slice(1)}</span>
}
