import ICAL from 'ical.js'
import type { Output } from './output'

/** A card a person (RFC 6350, vCard 4.0), of the columns that a card has a place for; the others become lines of its note. */
export const vcard: Output = async ({ of, heading, rows }) =>
  Buffer.from(rows.map((row) => `${card(new Map(of.map((column, i) => [column, { heading: heading[i], value: row[i] }])))}\r\n`).join(''))

type Cells = ReadonlyMap<string, { heading: string; value: string }>

const IN_CARD = new Set([
  'Name',
  'Given name',
  'Family name',
  'Role',
  'Organisation',
  'Email',
  'Phone',
  'Street',
  'Town',
  'Postcode',
  'Notes',
])

function card(cells: Cells): string {
  const value = (column: string): string => cells.get(column)?.value ?? ''
  const made = new ICAL.Component('vcard')
  const put = (name: string, values: string | string[]) => {
    const property = new ICAL.Property(name, made)
    property.setValue(values)
    made.addProperty(property)
  }
  put('version', '4.0')
  // Every card has a name that is shown (6.2.1).
  put(
    'fn',
    value('Name') ||
      [value('Given name'), value('Family name')].filter(Boolean).join(' ') ||
      value('Organisation') ||
      value('Record number') ||
      'No name',
  )
  if (value('Given name') || value('Family name')) put('n', [value('Family name'), value('Given name'), '', '', ''])
  if (value('Role')) put('title', value('Role'))
  if (value('Organisation')) put('org', [value('Organisation')])
  if (value('Email')) put('email', value('Email'))
  if (value('Phone')) put('tel', value('Phone'))
  if (value('Street') || value('Town') || value('Postcode')) put('adr', ['', '', value('Street'), value('Town'), '', value('Postcode'), ''])
  const others = [...cells]
    .filter(([column, own]) => !IN_CARD.has(column) && own.value !== '')
    .map(([, own]) => `${own.heading}: ${own.value}`)
  const note = [value('Notes'), ...others].filter(Boolean).join('\n')
  if (note) put('note', note)
  return made.toString()
}
