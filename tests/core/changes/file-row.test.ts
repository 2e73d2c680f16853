import { createHash } from 'node:crypto'
import { describe, expect, test } from 'vitest'
import { changeColumns, changeRow, missingColumns } from '@/core/changes/file-row'
import { itemTrouble } from '@/core/changes/feed'

const key = (content: string) => createHash('sha256').update(content).digest('hex')
const row = (header: string[], ...raw: string[]) => changeRow(raw, changeColumns(header), key)
const KINDS = new Map([
  ['storm damage', 1],
  ['another role', 2],
])

describe('a file of changes', () => {
  test('its columns are known by common headings; each is taken once', () => {
    expect(changeColumns(['Full Name', 'Company', 'E-Mail', 'What happened', 'New', 'Date', 'URL', 'Colour', 'Name'])).toEqual([
      'person',
      'organisation',
      'email',
      'what',
      'after',
      'day',
      'link',
      null,
      null,
    ])
  })

  test('what is missing is said before any row is read', () => {
    expect(missingColumns(changeColumns(['Person', 'Day']))).toMatch(/what happened/)
    expect(missingColumns(changeColumns(['Person', 'What']))).toMatch(/the day/)
    expect(missingColumns(changeColumns(['What', 'Day']))).toMatch(/whom it is about/)
    expect(missingColumns(changeColumns(['What', 'Seen', 'Organisation']))).toBeNull()
  })

  test('somebody who left, moved or rose; any other word is a kind by its name', () => {
    const header = ['Person', 'Organisation', 'What', 'After', 'Day']
    expect(row(header, 'Una Merrow', 'Larch House', 'Left', 'ignored', '3 May 2026')).toMatchObject({
      about: { person: 'Una Merrow', organisation: 'Larch House', email: null },
      field: 'organisation',
      after: null,
      happening: null,
      day: '2026-05-03',
      stated: true,
    })
    expect(row(header, 'Una Merrow', '', 'Promotion', 'Head Brewer', '03/05/2026')).toMatchObject({ field: 'role', after: 'Head Brewer' })
    expect(row(header, '', 'Larch House', 'STORM damage', '', '2026-05-03')).toMatchObject({
      about: { organisation: 'Larch House' },
      happening: 'storm damage',
      field: null,
    })
    expect(row(['Address', 'Town', 'What', 'Seen'], '1 Maltings', 'Farrowbridge', 'storm damage', '2026-05-03')).toMatchObject({
      about: { premises: '', street: '1 Maltings', town: 'Farrowbridge' },
      stated: false,
    })
  })

  test('a row without a number has one of what it says, so that the same row is known again', () => {
    const header = ['Organisation', 'What', 'Day', 'Note']
    const one = row(header, 'Larch House', 'storm damage', '2026-05-03', 'gale')
    expect(row(header, ' Larch House ', 'storm damage', '03.05.2026', 'gale').id).toBe(one.id)
    expect(row(header, 'Larch House', 'storm damage', '2026-05-03', 'hail').id).not.toBe(one.id)
  })

  test('what cannot be read is refused with why', () => {
    const header = ['Person', 'Organisation', 'What', 'After', 'Day', 'Link']
    const trouble = (...raw: string[]) => itemTrouble(row(header, ...raw), '2026-06-15', KINDS)
    expect(trouble('Una Merrow', '', 'left', '', '2026-05-03', '')).toBeNull()
    expect(trouble('Una Merrow', '', 'promoted', '', '2026-05-03', '')).toBe('it does not say the new role')
    expect(trouble('Una Merrow', '', 'eclipse', '', '2026-05-03', '')).toBe('we know no “eclipse”')
    expect(trouble('Una Merrow', '', 'left', '', 'soon', '')).toBe('it has no day')
    expect(trouble('Una Merrow', '', 'left', '', '2026-06-16', '')).toBe('it is dated in the future')
    expect(trouble('', 'Larch House', 'left', '', '2026-05-03', '')).toBe('only people have roles and employers')
    expect(trouble('Una Merrow', '', 'storm damage', '', '2026-05-03', 'javascript:x')).toBe('its link is none')
  })
})
