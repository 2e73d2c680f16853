import fc from 'fast-check'
import { expect, test } from 'vitest'
import { CHANNELS } from '@/core/records/channels'
import { countsDiffering, type Done, procedureOf, costDiffering } from '@/core/rounds/procedure'

const XLSX = { format: 'xlsx' as const, columns: ['A', 'B', 'C', 'D', 'E'].map((heading) => ({ of: 'Name', heading })) }
const taken = (by: string, layout: Done & { is: 'taken' } extends { layout: infer L } ? L : never = null): Done => ({
  is: 'taken',
  channel: 'post',
  layout,
  by,
})

test('what a round did is said once each, in its order and the latest way, with who did it and what is done again', () => {
  const before: Done[] = [
    { is: 'shared', channel: 'phone', among: ['Tam'], by: 'Ines' },
    taken('Tam'),
    taken('Beth', XLSX),
    taken('Beth'),
    { is: 'shared', channel: 'phone', among: ['Beth', 'Tam'], by: 'Ines' },
    { is: 'sent', subject: 'Your roof', by: 'Ines' },
  ]
  expect(procedureOf(before, [taken('Marek', { ...XLSX, columns: XLSX.columns.slice(0, 1) })])).toEqual([
    { text: 'Share out the contacts by phone among Beth, Tam', by: ['Ines'], done: false },
    { text: 'Download the post file', by: ['Tam', 'Beth'], done: false },
    { text: 'Download the post file as Excel workbook: A, B, C, D and 1 more', by: ['Beth'], done: true },
    { text: 'Send the email “Your roof”', by: ['Ines'], done: false },
  ])
  expect(procedureOf([], before)).toEqual([])
})

test('twice as many by a channel is told, half as many too, and nothing of a handful', () => {
  const of = (email: number, phone: number, post = 0) => ({ email, phone, post, direct: 0 })
  expect(countsDiffering(of(1200, 40, 12), of(600, 79, 5), 3)).toEqual(['Email: 1,200 people, 600 in round 3'])
  expect(countsDiffering(of(1, 0), of(40, 11), 2)).toEqual(['Email: 1 person, 40 in round 2', 'Phone: 0 people, 11 in round 2'])
  expect(countsDiffering(of(5, 0), of(0, 5), 2)).toEqual([])
  const counts = fc.record(
    Object.fromEntries(CHANNELS.map((channel) => [channel, fc.nat(5000)])) as Record<(typeof CHANNELS)[number], fc.Arbitrary<number>>,
  )
  fc.assert(
    fc.property(counts, counts, (now, before) => {
      expect(countsDiffering(now, now, 1)).toEqual([])
      // It is told of the same channels whichever way round.
      const names = (texts: string[]) => texts.map((text) => text.split(':')[0])
      expect(names(countsDiffering(now, before, 1))).toEqual(names(countsDiffering(before, now, 1)))
    }),
  )
})

test('a cost that differs from the round before is told, where both have one', () => {
  expect(costDiffering(39950, 21000, 1)).toEqual(['The cost: £399.50, £210 in round 1'])
  expect(costDiffering(100, 100, 1)).toEqual([])
  expect(costDiffering(null, 100, 1)).toEqual([])
  expect(costDiffering(100, null, 1)).toEqual([])
})
