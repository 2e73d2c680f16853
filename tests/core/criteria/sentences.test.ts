import { expect, test } from 'vitest'
import type { Criterion } from '@/core/criteria/registry'
import { type Line, lineText, sameLine, samePage } from '@/core/lists/line'
import { firstPolicy, RULES } from '@/core/screening/rules'

const line = (verb: 'keep' | 'drop' | 'add', criterion: Criterion, unknownAsYes = false): Line => ({
  id: 'x',
  verb,
  off: false,
  unknownAsYes,
  criterion,
})

test.each([
  [line('keep', { kind: 'role', any: ['facilities', 'estates'] }), 'Keep role says facilities or estates in any wording'],
  [line('keep', { kind: 'role', any: ['bursar'] }, true), 'Keep role says bursar in any wording (or unknown)'],
  [line('drop', { kind: 'place', towns: ['Low Wendle'], postcodes: ['PW1'] }), 'Drop is in Low Wendle or postcode PW1…'],
  [line('add', { kind: 'role', any: ['head of estates'] }), 'Add everyone whose role says head of estates in any wording'],
  [line('add', { kind: 'industry', any: ['dairy'] }), 'Add everyone whose organisation is a dairy'],
  [line('add', { kind: 'reach', channel: 'email' }), 'Add everyone who has a usable email address'],
  [line('drop', { kind: 'relation', any: ['customer'] }), 'Drop relation to us is customer'],
  [line('keep', { kind: 'contacted', how: 'never', by: null }), 'Keep was never contacted by anyone counting any channel'],
  [
    line('drop', { kind: 'contacted', how: 'within', days: 30, by: { id: 'a', name: 'Tam Reyes' } }),
    'Drop was contacted within 30 days by Tam Reyes counting any channel',
  ],
  [
    line('keep', { kind: 'contacted', how: 'before', date: '2026-03-01', by: null }),
    'Keep was last contacted before 1 Mar 2026 by anyone counting any channel',
  ],
  [
    line('drop', { kind: 'contacted', how: 'within', days: 7, by: null, ways: ['email', 'met'] }),
    'Drop was contacted within 7 days by anyone counting email or met',
  ],
  [line('keep', { kind: 'industry', any: ['school', 'clinic'] }), 'Keep organisation is a school or clinic'],
  [line('keep', { kind: 'head-count', any: ['50 to 249'] }), 'Keep organisation has 50 to 249 people'],
  [line('keep', { kind: 'county', any: ['Pellow'] }), 'Keep county is Pellow'],
  [line('drop', { kind: 'tag', any: ['newsletter'] }), 'Drop is tagged newsletter'],
  [line('add', { kind: 'batch', batch: { id: 1, name: 'fair.csv' } }), 'Add everyone who was in the file fair.csv'],
  [
    line('drop', { kind: 'round', list: { id: 1, name: 'Schools' }, which: 'last', stood: 'listed' }),
    'Drop was listed in the last round of Schools',
  ],
  [
    line('add', { kind: 'list', list: { id: 1, name: 'Open day visitors, May' }, edition: null }),
    'Add everyone who is on Open day visitors, May',
  ],
  [line('keep', { kind: 'list', list: { id: 1, name: 'Schools' }, edition: 4 }), 'Keep is on Schools as of edition 4'],
  [
    { id: 'x', verb: 'limit', off: false, most: 3, per: 'organisation', rank: 'easiest to reach' } as Line,
    'Limit to 3 for each organisation · easiest to reach first',
  ],
  [
    { id: 'x', verb: 'limit', off: false, most: 5000, per: 'all', rank: 'latest contact' } as Line,
    'Limit to 5,000 in all · latest contact first',
  ],
  [
    {
      id: 'x',
      verb: 'pick',
      off: false,
      side: 'out',
      set: { id: 1, count: 3 },
      names: ['Maud Ellery'],
      reason: 'asked for a break',
      until: '2026-12-01',
      by: 'Ines',
    } as Line,
    'Pick out Maud Ellery, 2 more · asked for a break until 1 Dec 2026',
  ],
  [{ id: 'x', verb: 'start', off: false, batch: null } as Line, 'Start with everyone in the directory'],
  [{ id: 'x', verb: 'start', off: false, batch: { id: 3, name: 'fair.csv' } } as Line, 'Start with everyone from fair.csv'],
])('%o', (l, text) => expect(lineText(l)).toBe(text))

test('two lines are the same whatever their ids', () => {
  const a = line('keep', { kind: 'reach', channel: 'post' })
  expect(sameLine(a, { ...a, id: 'y' })).toBe(true)
  expect(sameLine(a, { ...a, off: true })).toBe(false)
})

test('two pages are the same however their parts are written down, and not in another order of lines', () => {
  const a = line('keep', { kind: 'place', towns: ['Low Wendle'], postcodes: [] })
  const b = { ...line('drop', { kind: 'reach', channel: 'post' }), id: 'y' }
  const turned = JSON.parse(
    '{"criterion":{"postcodes":[],"towns":["Low Wendle"],"kind":"place"},"off":false,"id":"x","unknownAsYes":false,"verb":"keep"}',
  )
  expect(samePage([a, b], [turned, b])).toBe(true)
  expect(samePage([a, b], [b, a])).toBe(false)
  expect(samePage([a], [a, b])).toBe(false)
})

test('every rule says in words what it does and what counts', () => {
  const moment = { asOf: Date.UTC(2026, 8, 14, 10), zone: 'Europe/London' }
  const said = firstPolicy().map((rule) => {
    const kind = RULES[rule.kind] as unknown as {
      sentence: (r: typeof rule) => { text?: string; chip?: string }[]
      note: (r: typeof rule, m: typeof moment) => string
    }
    return [
      kind
        .sentence(rule)
        .map((p) => p.text ?? p.chip)
        .join(' '),
      kind.note(rule, moment),
    ]
  })
  expect(said.map(([sentence]) => sentence)).toEqual([
    'No way to reach',
    'Asked us to stop',
    'Do-not-call register',
    'Address failed',
    'Customers and our own people',
    'Contacted in the last 30 days',
    'In another open round',
  ])
  expect(said[2][1]).toBe('no register file has been brought in')
  const register = RULES.register
  expect(register.note({ id: 'register', kind: 'register', version: '2026-09-02', goodFor: 31 }, moment)).toBe(
    'file of 2 Sept 2026, 12 days old, good for 19 more',
  )
  expect(register.note({ id: 'register', kind: 'register', version: '2026-08-01', goodFor: 31 }, moment)).toMatch(
    /^file of 1 Aug 2026 was good through 1 Sept 2026/,
  )
})
