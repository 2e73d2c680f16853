import { withQuestions } from '@/core/criteria/registry'
import { type Line, validLines } from '@/core/lists/line'
import { type Actor, Refused } from '@/usecases/team/actor'

/** Lines from outside, checked. Throws Refused. */
export function validPage(lines: unknown): Line[] {
  try {
    return validLines(lines)
  } catch (error) {
    throw new Refused(`The list cannot be saved: ${(error as Error).message}.`)
  }
}

/** *By me* is the person who saves the line (or works on it), by name. */
export function signedLine(line: Line, actor: Actor): Line {
  if (!('criterion' in line)) return line
  return {
    ...line,
    criterion: withQuestions(line.criterion, (asked) =>
      (asked.kind === 'contacted' || asked.kind === 'contact-count') && asked.by?.id === 'me'
        ? { ...asked, by: { id: actor.id, name: actor.name } }
        : asked,
    ),
  }
}
