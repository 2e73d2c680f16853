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

  /** A newer question of the same page was answered in its place. */
  get overtaken(): boolean {
    return this.status === 409
  }
}

/** Asks the application. Throws Told with a sentence for the person, or AbortError when given up. */
export async function ask<T>(url: string, body?: unknown, signal?: AbortSignal): Promise<T> {
  const response = await send(url, body, signal)
  const answer = await response.json().catch((error) => {
    if (signal?.aborted) throw error
    throw cutOff()
  })
  if (!response.ok) throw new Told(answer.error ?? 'Something went wrong.', response.status)
  return answer as T
}

/** Asks for what comes in two lines of JSON: the first is handed over as soon as it is there, the second given back. Throws as `ask` does. */
export async function askInParts<A, B>(url: string, body: unknown, signal: AbortSignal, first: (part: A) => void): Promise<B> {
  const response = await send(url, body, signal)
  if (!response.ok || !response.body)
    throw new Told((await response.json().catch(() => ({}))).error ?? 'Something went wrong.', response.status)
  const reader = response.body.pipeThrough(new TextDecoderStream()).getReader()
  let text = ''
  let heard = false
  try {
    for (;;) {
      const { done, value } = await reader.read()
      if (done) break
      text += value
      const end = heard ? -1 : text.indexOf('\n')
      if (end < 0) continue
      heard = true
      first(JSON.parse(text.slice(0, end)))
      text = text.slice(end + 1)
    }
    const rest = JSON.parse(text)
    if (typeof rest.error === 'string') throw new Told(rest.error, rest.status)
    return rest as B
  } catch (error) {
    if (signal.aborted || error instanceof Told) throw error
    throw cutOff()
  }
}

async function send(url: string, body: unknown, signal: AbortSignal | undefined): Promise<Response> {
  try {
    return await fetch(
      url,
      body === undefined
        ? { signal }
        : body instanceof Blob
          ? { method: 'POST', body, signal }
          : { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body), signal },
    )
  } catch (error) {
    if ((error as Error).name === 'AbortError') throw error
    throw new Told('The connection is lost. What you entered is still here, and work continues when the connection is back.', 503)
  }
}

const cutOff = () => new Told('The answer was cut off. Nothing was changed. Try again.', 503)
