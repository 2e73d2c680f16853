/** What came back instead of an answer. `away` means the numbers come later by themselves. */
export class Told extends Error {
  constructor(
    message: string,
    readonly status: number,
  ) {
    super(message)
  }

  get away(): boolean {
    return this.status === 503
  }
}

/** Asks the application. Throws Told with a sentence for the person, or AbortError when given up. */
export async function ask<T>(url: string, body?: unknown, signal?: AbortSignal): Promise<T> {
  let response: Response
  try {
    response = await fetch(url, body === undefined ? { signal } : { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body), signal })
  } catch (error) {
    if ((error as Error).name === 'AbortError') throw error
    throw new Told('The connection is lost. What you entered still stands here; it goes on by itself once the connection is back.', 503)
  }
  const answer = await response.json().catch((error) => {
    if (signal?.aborted) throw error
    throw new Told('The answer was cut off on its way. Nothing was changed; try again.', 503)
  })
  if (!response.ok) throw new Told(answer.error ?? 'Something went wrong.', response.status)
  return answer as T
}
