/** What a server action gives back: its value, or a sentence for the person. */
export type ActionResult<T = unknown> = { ok: true; value: T } | { ok: false; error: string }
