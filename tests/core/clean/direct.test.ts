import fc from 'fast-check'
import { expect, test } from 'vitest'
import { cleanDirect } from '@/core/clean/direct'

test.each([
  ['https://People.Pellow.example/@Rowan.Moss/', 'https://people.pellow.example/@Rowan.Moss'],
  ['http://www.pellow.example/in/rowan', 'https://pellow.example/in/rowan'],
  ['people.pellow.example/in/rowan?utm_source=news#top', 'https://people.pellow.example/in/rowan'],
  // What tells whose profile it is stays.
  ['https://pellow.example/profile?id=77', 'https://pellow.example/profile?id=77'],
  ['<https://pellow.example/in/rowan>', 'https://pellow.example/in/rowan'],
  ['@rowan_moss', '@rowan_moss'],
  // As a file of ours has it, safe from spreadsheets.
  ["'@rowan_moss", '@rowan_moss'],
  // RFC 7565: an account of a host.
  ['acct:rowan@pellow.example', 'https://pellow.example/@rowan'],
  ['@rowan@Pellow.example', 'https://pellow.example/@rowan'],
])('%s is kept as %s', (raw, value) => expect(cleanDirect(raw)).toEqual({ usable: true, value, normal: value.toLowerCase() }))

test.each([
  ['rowan@pellow.example', 'it is an email or a phone'],
  ['mailto:rowan@pellow.example', 'it is an email or a phone'],
  ['https://pellow.example/', 'the link leads to a website, not to a profile on it'],
  ['https://someone@pellow.example/in/rowan', 'it is neither the link to a profile nor a handle such as @name'],
  ['rowan', 'it is neither the link to a profile nor a handle such as @name'],
  ['javascript:alert(1)/x', 'it is neither the link to a profile nor a handle such as @name'],
  ['Rowan Moss', 'it has a space'],
  ['@rowan@', 'it is an email or a phone'],
])('%s is kept and cannot be written to: %s', (raw, why) => expect(cleanDirect(raw)).toMatchObject({ usable: false, why }))

test.each(['', '  ', 'n/a', 'None', '-'])('%j is no profile at all', (raw) => expect(cleanDirect(raw)).toBeNull())

test('cleaning what was cleaned changes nothing, and spellings of one profile have one normal form', () => {
  const part = fc.stringMatching(/^[a-zA-Z][a-zA-Z0-9]{0,20}$/)
  fc.assert(
    fc.property(part, part, fc.constantFrom('', 'www.'), fc.constantFrom('', '/'), (host, name, www, end) => {
      const first = cleanDirect(`HTTPS://${www}${host}.example/${name}${end}`)
      const again = cleanDirect(first?.value ?? '')
      expect(again).toEqual(first)
      expect(cleanDirect(`${host.toUpperCase()}.Example/${name.toLowerCase()}`)?.normal).toBe(first?.normal)
    }),
  )
})
