/** Which tags came and which went, in words. Tags stand one behind the other with commas, which no tag holds; null is none. */
export function tagsMoved(before: string | null, after: string | null): string {
  const [had, has] = [tagsOf(before), tagsOf(after)]
  const came = has.filter((tag) => !had.includes(tag))
  const went = had.filter((tag) => !has.includes(tag))
  if (came.length + went.length === 0) return 'Tags unchanged'
  return [
    came.length > 0 && `Tagged ${came.join(', ')}`,
    went.length > 0 && `${came.length > 0 ? 'no longer' : 'No longer tagged'} ${went.join(', ')}`,
  ]
    .filter(Boolean)
    .join('; ')
}

const tagsOf = (text: string | null): string[] => (text === null || text === '' ? [] : text.split(', '))
