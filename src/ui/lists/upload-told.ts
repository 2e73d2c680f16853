import type { Uploaded } from '@/core/views/list-views'
import { count } from '@/ui/book/figures'

/** What became of the rows of a file that was looked up, in a sentence; every row is in it. */
export function uploadTold(
  found: number,
  { rows, nobody, several, unclear }: Pick<Uploaded, 'rows' | 'nobody' | 'several' | 'unclear'>,
): string {
  const same = rows - nobody.count - several - unclear - found
  const rest = [
    same > 0 && `${count(same)} ${same === 1 ? 'names' : 'name'} somebody once more`,
    nobody.count > 0 &&
      `${count(nobody.count)} ${nobody.count === 1 ? 'is' : 'are'} about nobody in the directory (${nobody.some.join('; ')}${nobody.count > nobody.some.length ? '; …' : ''})`,
    several > 0 && `${count(several)} could be about several`,
    unclear > 0 && `${count(unclear)} could not be read`,
  ].filter(Boolean)
  return `${count(rows)} ${rows === 1 ? 'row' : 'rows'}: ${count(found)} ${found === 1 ? 'person' : 'people'} picked${rest.length > 0 ? `; ${rest.join('; ')}` : ''}.`
}
