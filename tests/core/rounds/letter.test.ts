import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { fillLetter, footerText, letterGaps, LETTER_FIELDS, type LetterValues, readLetter } from '@/core/rounds/letter'
import { escaped, letterHtml } from '@/formats/letter-html'

const ADA: LetterValues = {
  name: 'Ada Brook',
  'given name': 'Ada',
  'family name': 'Brook',
  role: null,
  organisation: 'Mill & Sons',
  opener: null,
}
const filled = (text: string, values = ADA) => fillLetter(readLetter(text).parts, values)

describe('a letter', () => {
  test.each([
    ['Dear {given name},', 'Dear Ada,', []],
    ['Dear {First Name|neighbour},', 'Dear Ada,', []],
    ['As {role|a neighbour} of {company}', 'As a neighbour of Mill & Sons', []],
    ['As {role}', 'As ', ['role']],
    ['{opener|}Good morning', 'Good morning', []],
    ['{role|head | deputy}', 'head | deputy', []],
    ['a {{brace}} of its own', 'a {brace} of its own', []],
    ['{surname}{surname}', 'BrookBrook', []],
    ['', '', []],
  ])('%s', (text, said, lacking) => {
    expect(readLetter(text).troubles).toEqual([])
    expect(filled(text)).toEqual({ text: said, lacking })
  })
  test.each([
    ['Dear {given name', /^Line 1: a brace is opened and not closed/],
    ['one\ntwo {nick name}', /^Line 2: there is no field “nick name”. The fields are name, given name/],
    ['one\n\nthree }', /^Line 3: a brace is closed that was not opened/],
    ['{given\nname}', /^Line 1: a brace is opened/],
    ['{ }', /there is no field “”/],
    ['{constructor}', /there is no field “constructor”/],
  ])('%j says what cannot be read, with its line', (text, trouble) => expect(readLetter(text).troubles[0]).toMatch(trouble))

  test('a value is one line, and one of nothing but spaces is none', () => {
    expect(filled('{name}', { ...ADA, name: 'Ada\r\nBcc: all@way.example' }).text).toBe('Ada Bcc: all@way.example')
    expect(filled('{role}', { ...ADA, role: ' \n ' })).toEqual({ text: '', lacking: ['role'] })
  })

  test('says who lacks what, and what stands in; one place without a stand-in is enough to lack it', () => {
    const nobody: LetterValues = { ...ADA, 'given name': null, role: 'Head', organisation: null }
    const texts = ['{given name|there} {role}', '{given name} {organisation|you}'].map((text) => readLetter(text).parts)
    expect(letterGaps(texts, [ADA, nobody, nobody])).toEqual([
      { field: 'given name', people: 2, standIn: null },
      { field: 'role', people: 1, standIn: null },
      { field: 'organisation', people: 2, standIn: 'you' },
    ])
    expect(letterGaps(texts, [{ ...ADA, role: 'Head' }])).toEqual([])
  })

  test('any text of its own comes back as it is, whatever the values are', () => {
    const plain = fc.string().map((text) => text.replace(/[{}]/g, ''))
    fc.assert(
      fc.property(fc.array(fc.tuple(plain, fc.constantFrom(...LETTER_FIELDS))), plain, fc.string(), (pieces, end, value) => {
        const text = `${pieces.map(([before, field]) => `${before}{${field}|–}`).join('')}${end}`
        const values = Object.fromEntries(LETTER_FIELDS.map((field) => [field, value])) as LetterValues
        const line = value.replace(/\s+/g, ' ').trim() || '–'
        const { parts, troubles } = readLetter(text)
        expect(troubles).toEqual([])
        expect(fillLetter(parts, values).text).toBe(`${pieces.map(([before]) => before + line).join('')}${end}`)
      }),
    )
  })
  test('whatever is typed is read or refused, and never lost', () => {
    fc.assert(
      fc.property(fc.string({ unit: fc.constantFrom('{', '}', '|', 'a', '\n', 'role') }), (text) => {
        const { parts, troubles } = readLetter(text)
        const { text: said } = fillLetter(parts, { ...ADA, role: '¤' })
        if (troubles.length === 0) expect(said.replace(/¤/g, '').length).toBeLessThanOrEqual(text.length)
        else expect(troubles.every((trouble) => /^Line \d+: /.test(trouble))).toBe(true)
      }),
    )
  })
})

describe('its HTML', () => {
  const FOOTER = { sender: 'Fen <Roofs>', address: '1 Mill Lane\nThornmouth', stop: 'https://a.example/stop/x?a=1&b="' }
  test('is that of its Markdown, with who sends it and the way to stop', () => {
    const html = letterHtml('Dear **Ada**,\n\nsee [the yard](https://a.example).\nNext line', FOOTER)
    expect(html).toContain('<p>Dear <strong>Ada</strong>,</p>')
    expect(html).toContain('<a href="https://a.example">the yard</a>.<br')
    expect(html).toContain('Fen &lt;Roofs&gt;<br>\n1 Mill Lane<br>\nThornmouth<br>')
    expect(html).toContain('href="https://a.example/stop/x?a=1&amp;b=&quot;"')
    expect(footerText('Fen', '1 Mill Lane', 'https://a.example')).toMatch(/^-- \nFen\n1 Mill Lane\nTo stop these emails: https/)
  })
  test('takes nothing for HTML, a script or a picture that tells who opened it', () => {
    const html = letterHtml('<script>x</script> [x](javascript:alert(1)) ![p](https://a.example/p.png) <img src=x>', FOOTER)
    expect(html).not.toMatch(/<script|<img|href="javascript/)
  })
  test('a value is text and never markup, whatever marks are in it', () => {
    // CommonMark 0.31.2, section 2.4: any mark of ASCII may be escaped by a backslash.
    fc.assert(
      fc.property(fc.string({ unit: fc.constantFrom(...'*_`[]()<>!#\\&~|-+."ab1 '.split('')) }), (value) => {
        const line = value.replace(/\s+/g, ' ').trim()
        const html = letterHtml(`x${escaped(line)}x`, FOOTER).split('<hr>')[0]
        const text = html
          .replace(/<\/?p>|\n/g, '')
          .replaceAll('&lt;', '<')
          .replaceAll('&gt;', '>')
          .replaceAll('&quot;', '"')
          .replaceAll('&amp;', '&')
        expect(text).toBe(`x${line}x`)
      }),
    )
  })
})
