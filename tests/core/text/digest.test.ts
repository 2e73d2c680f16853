import { expect, test } from 'vitest'
import { digestOf } from '@/core/text/digest'
import type { Move, TaskView } from '@/core/views/today-views'
import { escaped, noticeHtml } from '@/formats/letter-html'

const move = (rest: Partial<Move>): Move => ({
  key: 'k',
  group: 'rounds',
  text: 'Round 1',
  n: null,
  href: '/rounds/1',
  late: false,
  ...rest,
})
const task = (rest: Partial<TaskView>): TaskView => ({
  id: 1,
  what: 'Call',
  about: null,
  forId: 'a',
  forName: 'A',
  due: null,
  is: 'today',
  by: null,
  ...rest,
})

test('what is somebody’s move is a line each with its link; tasks of later days are not in it', () => {
  const digest = digestOf(
    {
      moves: [move({ n: 1200, text: 'Round 2 of [Roofs]: contacts' }), move({ text: 'Late one', late: true, href: '/lists/3' })],
      tasks: [task({ what: 'Order *cards*', is: 'overdue' }), task({ is: 'later' }), task({ is: 'any day' })],
    },
    '2026-12-01',
    'https://a.example',
    escaped,
  )
  expect(digest?.subject).toBe('Tuesday 1 December: 3 things wait for you')
  expect(digest?.body.split('\n')).toHaveLength(3)
  const html = noticeHtml(digest?.body ?? '')
  expect(html).toContain('<a href="https://a.example/rounds/1">Round 2 of [Roofs]: contacts: 1,200</a>')
  expect(html).toContain('<strong>late:</strong> <a href="https://a.example/lists/3">Late one</a>')
  expect(html).toContain('<strong>late:</strong> <a href="https://a.example/today">Task: Order *cards*</a>')
})

test('nothing to do is no email', () => {
  expect(digestOf({ moves: [], tasks: [task({ is: 'later' })] }, '2026-12-01', 'https://a.example', escaped)).toBeNull()
  expect(digestOf({ moves: [move({})], tasks: [] }, '2026-12-01', 'https://a.example', escaped)?.subject).toMatch(
    /: 1 thing waits for you$/,
  )
})
