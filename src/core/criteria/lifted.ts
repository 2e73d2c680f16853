import type { Directory } from '../columns/directory'
import type { NumberColumn } from '../columns/number-column'
import type { Subject } from '../records/subject'
import type { Answer } from './kind'

/** The answer about what records belong to, as one about the records themselves: unknown where they belong to nothing live. */
export function lifted(directory: Directory, subject: Subject, own: Subject, { yes, unknown }: Answer): Answer {
  const link = linkOf(directory, subject, own)
  const others = directory.of(own)
  const said = new Uint8Array(others.size + 1).fill(2)
  others.live.forEach((n) => {
    said[n + 1] = yes.has(n) ? 1 : unknown.has(n) ? 2 : 0
  })
  return directory.of(subject).live.splitByCode(link.all, said)
}

function linkOf({ people, organisations }: Directory, subject: Subject, own: Subject): NumberColumn {
  if (subject === 'person' && own === 'organisation') return people.employer
  if (subject === 'person' && own === 'premises') return people.at
  if (subject === 'organisation' && own === 'premises') return organisations.at
  throw new Error(`a list of ${subject} cannot ask about ${own}`)
}
