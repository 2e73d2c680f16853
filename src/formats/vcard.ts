import { createReadStream } from 'node:fs'
import { createInterface } from 'node:readline'
import iconv from 'iconv-lite'
import ICAL from 'ical.js'
import { encodingOf } from './encoding'
import { checkCells, type Format, LONGEST_ROW, nothingStored, SHOWN_FIRST, Unreadable } from './format'
import { countText } from '@/core/text/written'

/** What of a card becomes a column, in this order. A second address, number or email has a column of its own; more are joined to it. */
const HEADER = [
  'Id',
  'Full name',
  'First name',
  'Last name',
  'Job title',
  'Organisation',
  'Email',
  'Second email',
  'Phone',
  'Mobile',
  'Address',
  'Town',
  'County',
  'Postcode',
  'Country',
  'Tags',
  'Website',
  'Note',
]

/** vCards, versions 3.0 (RFC 2426) and 4.0 (RFC 6350), any number in a file. Pictures and sounds in them are passed over. */
export const vcard: Format = {
  async look(path, asked) {
    const encoding = asked.encoding ?? (await encodingOf(path))
    const first: string[][] = []
    let rows = 0
    for await (const row of cards(path, encoding)) {
      checkCells(row, rows + 1, (column) => HEADER[column])
      if (first.length < SHOWN_FIRST) first.push(row)
      rows++
    }
    if (rows === 0) throw new Unreadable('The file holds no cards. Nothing was stored.')
    return { reading: { format: 'vcard', encoding, headerRow: 0 }, header: HEADER, first, rows, choices: {} }
  },
  rows: (path, { encoding = 'UTF-8' }) => cards(path, encoding),
}

async function* cards(path: string, encoding: string): AsyncGenerator<string[]> {
  const lines = createInterface({
    input: createReadStream(path).pipe(iconv.decodeStream(encoding)) as unknown as NodeJS.ReadableStream,
    crlfDelay: Number.POSITIVE_INFINITY,
  })
  let card: string[] | null = null
  let [number, begun, length, binary] = [0, 0, 0, false]
  for await (const line of lines) {
    number++
    if (/^BEGIN:VCARD\s*$/i.test(line)) {
      if (card) throw new Unreadable(`The card that begins in line ${begun} does not end before the next begins. ${nothingStored}`)
      ;[card, begun, length, binary] = [[], number, 0, false]
    }
    if (!card) {
      if (line.trim() !== '') throw new Unreadable(`Line ${number} stands outside of any card. ${nothingStored}`)
      continue
    }
    // A picture is the rest of its line and all lines that go on with a blank.
    const goesOn = /^[ \t]/.test(line)
    if (!goesOn) binary = /^([\w-]+\.)?(PHOTO|LOGO|SOUND|KEY)[;:]/i.test(line)
    if (binary) continue
    length += line.length
    if (length > LONGEST_ROW)
      throw new Unreadable(`The card that begins in line ${begun} is longer than ${countText(LONGEST_ROW)} characters. ${nothingStored}`)
    card.push(line)
    if (/^END:VCARD\s*$/i.test(line)) {
      yield cells(card, begun)
      card = null
    }
  }
  if (card) throw new Unreadable(`The card that begins in line ${begun} never ends. ${nothingStored}`)
}

interface Property {
  name: string
  types: string[]
  preferred: number
  value: string | string[]
}

function cells(card: string[], begun: number): string[] {
  const properties = propertiesOf(card, begun)
  const all = (name: string) => properties.filter((p) => p.name === name).sort((a, b) => a.preferred - b.preferred)
  const texts = (name: string, between = ', ') =>
    all(name)
      .map((p) => [p.value].flat().filter(Boolean).join(between).trim())
      .filter(Boolean)
  const part = (name: string, i: number) => String([all(name)[0]?.value ?? ''].flat()[i] ?? '').trim()
  const phones = all('tel').filter((p) => !p.types.includes('fax'))
  const number = (p: Property | undefined) => String(p?.value ?? '').replace(/^tel:/i, '')
  const mobile = phones.find((p) => p.types.includes('cell')) ?? phones[1]
  const phone = phones.find((p) => p !== mobile) ?? (mobile === phones[0] ? undefined : phones[0])
  const [mail, ...mails] = texts('email')
  return [
    texts('uid')[0] ?? '',
    texts('fn')[0] ?? '',
    [part('n', 1), part('n', 2)].filter(Boolean).join(' '),
    part('n', 0),
    texts('title')[0] ?? texts('role')[0] ?? '',
    part('org', 0),
    mail ?? '',
    mails.join('; '),
    number(phone),
    number(mobile),
    [part('adr', 0), part('adr', 1), part('adr', 2)].filter(Boolean).join(', '),
    part('adr', 3),
    part('adr', 4),
    part('adr', 5),
    part('adr', 6),
    texts('categories', '; ').join('; '),
    texts('url')[0] ?? '',
    texts('note').join(' · '),
  ]
}

function propertiesOf(card: string[], begun: number): Property[] {
  let parsed: [string, [string, Record<string, string | string[]>, string, ...unknown[]][]]
  try {
    parsed = ICAL.parse(card.join('\r\n')) as unknown as typeof parsed
  } catch (error) {
    throw new Unreadable(
      `The card that begins in line ${begun} cannot be read (${(error as Error).message}). Mend it and bring the file in again. ${nothingStored}`,
    )
  }
  return parsed[1].map(([name, parameters, , ...values]) => {
    const types = [parameters.type ?? []].flat().map((type) => type.toLowerCase())
    const value =
      values.length > 1
        ? values.map(String)
        : Array.isArray(values[0])
          ? values[0].map((v) => [v].flat().join(' '))
          : String(values[0] ?? '')
    return {
      name: name.replace(/^.*\./, '').toLowerCase(),
      types,
      preferred: Number(parameters.pref ?? (types.includes('pref') ? 1 : 101)),
      value,
    }
  })
}
