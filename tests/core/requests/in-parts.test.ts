import { expect, test, vi } from 'vitest'

vi.mock('@/app/requests/answer', () => ({ told: (error: Error) => ({ message: error.message, status: 503 }) }))
const { inParts } = await import('@/app/requests/in-parts')

const linesOf = async (response: Response) =>
  (await response.text())
    .trim()
    .split('\n')
    .map((line) => JSON.parse(line))

test('the figures come first and the page after them, a line each', async () => {
  const response = inParts({ figures: 1 }, async () => ({ page: [2] }))
  expect(response.headers.get('content-type')).toBe('application/x-ndjson')
  expect(response.headers.get('cache-control')).toBe('no-store')
  expect(await linesOf(response)).toEqual([{ figures: 1 }, { page: [2] }])
})

test('where the page cannot be had, its line says why', async () => {
  const response = inParts({ figures: 1 }, async () => {
    throw new Error('The database is not responding.')
  })
  expect(await linesOf(response)).toEqual([{ figures: 1 }, { error: 'The database is not responding.', status: 503 }])
})

test.each([
  ['comes after all', async () => 'late'],
  ['fails after all', () => Promise.reject(new Error('late'))],
])('whoever went away before the page came breaks nothing, whether it %s', async (_, rest) => {
  let goOn = () => {}
  const waiting = new Promise<void>((resolve) => (goOn = resolve))
  const unhandled = vi.fn()
  process.on('unhandledRejection', unhandled)
  const response = inParts('first', () => waiting.then(rest))
  const reader = (response.body as ReadableStream<Uint8Array>).getReader()
  await reader.read()
  await reader.cancel()
  goOn()
  await new Promise((resolve) => setTimeout(resolve, 20))
  process.off('unhandledRejection', unhandled)
  expect(unhandled).not.toHaveBeenCalled()
})
