/** The house number a street line begins with, and the rest of it; both null where there is no line. *12a Mill Lane* is number 12. */
export function houseAndStreet(line: string | null): { house: number | null; street: string | null } {
  if (line === null) return { house: null, street: null }
  let at = 0
  let house = 0
  for (; at < line.length && at < 6; at++) {
    const digit = line.charCodeAt(at) - 48
    if (digit < 0 || digit > 9) break
    house = house * 10 + digit
  }
  if (at === 0 || at === 6) return { house: null, street: line }
  // One letter may follow the number, and then a blank or a comma must.
  let rest = at
  if (/[a-z]/i.test(line[rest] ?? '')) rest++
  if (line[rest] !== ' ' && line[rest] !== ',') return { house: null, street: line }
  const street = line.slice(rest).replace(/^[\s,]+/, '')
  return street === '' ? { house: null, street: line } : { house, street }
}
