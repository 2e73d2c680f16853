import type { Move, TaskView } from '../views/today-views'
import { countText, weekdayText } from './written'

/**
 * What is somebody’s move as an email in Markdown, with a link a line; null where nothing is. `day` is YYYY-MM-DD and `url` where the
 * application is reached.
 */
export function digestOf(
  { moves, tasks }: { moves: readonly Move[]; tasks: readonly TaskView[] },
  day: string,
  url: string,
  escaped: (text: string) => string,
): { subject: string; body: string } | null {
  const due = tasks.filter(({ is }) => is === 'overdue' || is === 'today')
  if (moves.length === 0 && due.length === 0) return null
  const n = moves.length + due.length
  const line = (text: string, href: string, late: boolean) => `- ${late ? '**late:** ' : ''}[${escaped(text)}](${url}${href})`
  return {
    subject: `${weekdayText(day)}: ${countText(n)} ${n === 1 ? 'thing waits' : 'things wait'} for you`,
    body: [
      ...moves.map((move) => line(move.n === null ? move.text : `${move.text}: ${countText(move.n)}`, move.href, move.late)),
      ...due.map((task) => line(`Task: ${task.what}`, '/today', task.is === 'overdue')),
    ].join('\n'),
  }
}
