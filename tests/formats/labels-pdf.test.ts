import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, test } from 'vitest'
import { labelAt, type LabelSheet, SHEETS } from '@/core/labels/sheet'
import { type LabelJob, labelsPdf, respelledAmong } from '@/formats/labels-pdf'

const folder = mkdtempSync(join(tmpdir(), 'labels-'))
afterAll(() => rmSync(folder, { recursive: true }))

const job: LabelJob = {
  title: 'Labels',
  labels: [],
  sheet: SHEETS['a4-3x7'].sheet as LabelSheet,
  start: 1,
  offset: { across: 0, down: 0 },
  align: false,
  at: new Date('2026-06-15T09:00:00Z'),
}

/** The words of a PDF with their pages and boxes in millimetres, as Poppler's pdftotext reads them. */
function wordsOf(bytes: Buffer): { page: number; text: string; left: number; right: number; top: number; bottom: number }[] {
  const file = join(folder, 'labels.pdf')
  writeFileSync(file, bytes)
  const html = execFileSync('pdftotext', ['-bbox', file, '-'], { encoding: 'utf8' })
  let page = -1
  const words = []
  for (const line of html.split('\n')) {
    if (line.includes('<page ')) page++
    const word = line.match(/<word xMin="([\d.-]+)" yMin="([\d.-]+)" xMax="([\d.-]+)" yMax="([\d.-]+)">(.*)<\/word>/)
    if (!word) continue
    const [left, top, right, bottom] = word.slice(1, 5).map((points) => (Number(points) * 25.4) / 72)
    words.push({ page, text: word[5].replace(/&amp;/g, '&'), left, right, top, bottom })
  }
  return words
}

describe.each(Object.entries(SHEETS))('labels on %s', (_, { sheet: given }) => {
  const sheet = given as LabelSheet

  test('stand where the sheet says, to a fifth of a millimetre, on as many sheets as they need', async () => {
    const each = sheet.columns * sheet.rows
    const labels = Array.from({ length: each + 5 }, (_, n) => [`Name${n}`, `Street${n}`])
    const { bytes, pages } = await labelsPdf({ ...job, sheet, labels, start: 3, offset: { across: 0.4, down: -0.3 } })
    expect(pages).toBe(2)
    const words = wordsOf(bytes)
    expect(words).toHaveLength(2 * labels.length)
    for (let n = 0; n < labels.length; n++) {
      const place = labelAt(sheet, n, 3, { across: 0.4, down: -0.3 })
      const [name, street] = [words.find(({ text }) => text === `Name${n}`), words.find(({ text }) => text === `Street${n}`)]
      expect(name?.page).toBe(place.page)
      // 3.5 mm from the edge of the label; N and S begin with less than a fifth of a millimetre of their own.
      expect(Math.abs((name?.left ?? 0) - (place.x + 3.5))).toBeLessThan(0.2)
      expect(Math.abs(((name?.top ?? 0) + (street?.bottom ?? 0)) / 2 - (place.y + sheet.label.height / 2))).toBeLessThan(0.7)
      expect(name?.top).toBeGreaterThan(place.y)
      expect(street?.bottom).toBeLessThan(place.y + sheet.label.height)
      expect(street?.right).toBeLessThan(place.x + sheet.label.width)
    }
  })
})

describe('the text of labels', () => {
  test('in every script of Europe is there, letter by letter', async () => {
    const names = [
      'Żaneta Łuć-Þórsdóttir',
      'Ελένη Παπαδάκη',
      'Људмила Ђорђевић',
      'Юрий Ёжиков',
      'ნინო ბერიძე',
      'Արամ Հակոբյան',
      'Nguyễn Thị Hạnh',
    ]
    const { bytes } = await labelsPdf({ ...job, labels: names.map((name) => [name, '1 Mill Lane']) })
    const text = wordsOf(bytes)
      .map((word) => word.text)
      .join(' ')
    for (const name of names) expect(text).toContain(name)
    expect(respelledAmong(names.map((name) => [name]))).toBe(0)
  })

  test('that no font has is spelled in Latin letters and told; pictures are left out', async () => {
    const labels = [
      ['ليلى حداد', '1 Mill Lane'],
      ['Ann 🌧 Able', '2 Mill Lane'],
      ['Bob Bell', '3 Mill Lane'],
    ]
    expect(respelledAmong(labels)).toBe(2)
    const text = wordsOf((await labelsPdf({ ...job, labels })).bytes)
      .map((word) => word.text)
      .join(' ')
    expect(text).toMatch(/^[a-z]+ [a-z]+ 1 Mill Lane/i)
    expect(text).toContain('Ann Able 2 Mill Lane')
  })

  test('of 120 letters stays on its label, whole', async () => {
    const long = `${'Featherstonehaugh-'.repeat(6)}Smythe-Jones`.slice(0, 120)
    const { bytes } = await labelsPdf({ ...job, labels: [[long, 'Hallow Clinic', '12 Mill Lane', 'Thornmouth', 'PW1 2AB']] })
    const words = wordsOf(bytes)
    const place = labelAt(job.sheet, 0)
    for (const { left, right, top, bottom } of words) {
      expect(left).toBeGreaterThan(place.x)
      expect(right).toBeLessThan(place.x + job.sheet.label.width)
      expect(top).toBeGreaterThan(place.y - 0.1)
      expect(bottom).toBeLessThan(place.y + job.sheet.label.height + 0.1)
    }
    expect(
      words
        .map(({ text }) => text)
        .join('')
        .replace(/HallowClinic.*/, ''),
    ).toBe(long)
  })

  test('gives the same bytes again', async () => {
    const labels = [
      ['Ada Open', '12 Mill Lane', 'Thornmouth PW1 2AB'],
      ['Ελένη Παπαδάκη', '1 Weir Street'],
    ]
    const one = await labelsPdf({ ...job, labels })
    const again = await labelsPdf({ ...job, labels })
    expect(again.bytes.equals(one.bytes)).toBe(true)
  })

  test('an alignment page numbers the outline of every label', async () => {
    const { bytes, pages } = await labelsPdf({ ...job, align: true })
    expect(pages).toBe(1)
    expect(wordsOf(bytes).map(({ text }) => text)).toEqual(Array.from({ length: 21 }, (_, n) => String(n + 1)))
  })
})
