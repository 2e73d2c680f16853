import { expect, test } from 'vitest'
import type { ScreeningFigures } from '@/core/screening/account'
import { effectText } from '@/ui/rounds/rule-effect'

const figures = (email: number, phone: number, post: number, anyone: number): ScreeningFigures => ({
  opening: 2000,
  rules: [],
  clear: { email, phone, post, direct: 0 },
  anyone,
  heldBack: 2000 - anyone,
  ways: [],
})
const now = figures(1000, 900, 1500, 1700)

test.each([
  ['more by one channel', figures(1000, 957, 1500, 1743), '57 more by phone; 43 more people are clear.'],
  ['fewer by all', figures(999, 800, 1400, 1699), '1 fewer by email, 100 fewer by phone, 100 fewer by post; 1 fewer person is clear.'],
  ['more by one and nobody newly clear', figures(1001, 900, 1500, 1700), '1 more by email; as many people are clear as now.'],
  ['nothing', figures(1000, 900, 1500, 1700), 'Nobody more and nobody fewer is clear on any channel.'],
])('%s', (_, then, said) => expect(effectText(now, then)).toBe(said))
