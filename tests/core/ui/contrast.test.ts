import { readFileSync } from 'node:fs'
import { describe, expect, test } from 'vitest'

/**
 * Contrast of the colours of the book. Source: W3C, Web Content Accessibility Guidelines (WCAG) 2.2, definitions of relative luminance
 * and contrast ratio; success criteria 1.4.3 (text: 4.5 to 1) and 1.4.11 (parts of controls: 3 to 1).
 */
const theme = Object.fromEntries(
  [...readFileSync('src/app/globals.css', 'utf8').matchAll(/--color-([\w-]+): (#[0-9a-f]{6});/g)].map(([, name, hex]) => [name, hex]),
)

/** Relative luminance of a colour in sRGB (#rrggbb): 0 is black, 1 is white. */
function luminance(hex: string): number {
  const [r, g, b] = [1, 3, 5]
    .map((at) => Number.parseInt(hex.slice(at, at + 2), 16) / 255)
    .map((c) => (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4))
  return 0.2126 * r + 0.7152 * g + 0.0722 * b
}
function contrast(a: string, b: string): number {
  const [light, dark] = [luminance(a), luminance(b)].sort((x, y) => y - x)
  return (light + 0.05) / (dark + 0.05)
}

describe('the formula', () => {
  // Worked values that follow from the definition: black on white, a colour on itself, and the darkest grey that passes on white.
  test.each([
    ['#000000', '#ffffff', 21],
    ['#1b5e55', '#1b5e55', 1],
    ['#767676', '#ffffff', 4.54],
    ['#777777', '#ffffff', 4.48],
  ])('%s on %s is %d to 1', (a, b, expected) => expect(contrast(a, b)).toBeCloseTo(expected, 2))
})

const GROUNDS = ['page', 'leaf', 'wash', 'chip', 'ochre-wash'] as const
const TEXTS = ['ink', 'soft', 'verdigris', 'madder', 'ochre'] as const

test.each(TEXTS.flatMap((text) => GROUNDS.map((ground) => [text, ground] as const)))('text in %s can be read on %s', (text, ground) => {
  expect(contrast(theme[text], theme[ground])).toBeGreaterThanOrEqual(4.5)
})

test.each(['verdigris', 'madder'] as const)('white on %s can be read', (ground) => {
  expect(contrast('#ffffff', theme[ground])).toBeGreaterThanOrEqual(4.5)
})

test('the ring round what has the focus stands out from whatever it lies on', () => {
  for (const ground of [...GROUNDS.map((name) => theme[name]), '#ffffff'])
    expect(contrast(theme.verdigris, ground)).toBeGreaterThanOrEqual(3)
})
