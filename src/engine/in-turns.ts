import type { ReadModel } from './read-model'

/** So often work is begun again because the directory changed in the midst of it; then it is done in one go. */
const MOST_BEGINNINGS = 2

const others = () => new Promise((resolve) => setImmediate(resolve))

/**
 * Works something out part by part and lets other requests be answered between the parts, so that nobody's hand waits for a
 * profile of a million. `begin` makes ready what all parts go by; where the directory changes before the last part, all is
 * begun again, so that no answer is of two moments.
 */
export async function inTurns<P, B, R>(
  model: ReadModel,
  parts: readonly P[],
  begin: () => B,
  work: (begun: B, part: P) => R,
): Promise<{ begun: B; done: R[] }> {
  for (let beginnings = 0; ; beginnings++) {
    const patient = beginnings < MOST_BEGINNINGS
    const { directory } = model
    const { version } = directory
    const begun = begin()
    const done: R[] = []
    for (const part of parts) {
      if (patient) await others()
      if (model.directory !== directory || directory.version !== version) break
      done.push(work(begun, part))
    }
    if (done.length === parts.length) return { begun, done }
  }
}
