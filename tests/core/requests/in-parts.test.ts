import { expect, test, vi } from 'vitest'

const told = vi.fn((error: Error) => ({ message: error.message, status: 503 }))
vi.mock('@/app/requests/answer', () => ({ told }))
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

test('whoever went away before the page came breaks nothing', async () => {
  told.mockClear()
  let goOn = () => {}
  const waiting = new Promise<void>((resolve) => (goOn = resolve))
  const response = inParts('first', () => waiting.then(() => 'late'))
  const reader = (response.body as ReadableStream<Uint8Array>).getReader()
  await reader.read()
  await reader.cancel()
  goOn()
  await new Promise((resolve) => setImmediate(resolve))
  // A line written after the end would be told as an error.
  expect(told).not.toHaveBeenCalled()
})
