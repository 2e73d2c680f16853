import { describe, expect, test } from 'vitest'
import { customKey } from '@/core/clean/custom'
import { FIELD } from '@/core/clean/standard-fields'
import { fieldWordsOf } from '@/core/text/field-words'

const words = fieldWordsOf([{ id: 7, name: 'Boiler fitted', kind: 'date', choices: [] }], 'GB')

describe('what a field of a change is called', () => {
  test.each([
    ['role', 'role'],
    ['post', 'address'],
    ['headCount', 'head count'],
    [customKey(FIELD.revenue), 'Organisation: revenue'],
    [customKey(7), 'Boiler fitted'],
    [customKey(8), 'a field of our own'],
  ])('%s', (field, called) => expect(words.name(field)).toBe(called))
})

// The numbers are from Ofcom's ranges kept for drama.
describe('its values', () => {
  test.each([
    [customKey(FIELD.revenue), '1356000', '£1,356,000'],
    [customKey(FIELD.growth), '-4', '-4 %'],
    [customKey(FIELD.founded), '1904', '1904'],
    [customKey(7), '2026-03-09', '9 Mar 2026'],
    [customKey(8), '0', '0'],
    ['phone', '+441632960001', '01632 960001'],
    ['phone', '+4930209790', '+49 30 209790'],
    ['phone', '+441632960001, bad: no such number', '+441632960001, bad: no such number'],
    ['phone', 'not a number', 'not a number'],
    ['role', '1356000', '1356000'],
    ['role', null, 'none'],
    [customKey(FIELD.revenue), '', 'none'],
  ])('%s of %j', (field, value, said) => expect(words.value(field, value)).toBe(said))
})

test('a change, in one sentence and in its parts', () => {
  expect(words.change('post', null, '1 Mill Lane')).toBe('address: none → 1 Mill Lane')
  expect(words.told({ field: customKey(FIELD.revenue), before: '5', after: '5000' })).toEqual({
    field: 'Organisation: revenue',
    before: '£5',
    after: '£5,000',
  })
})
