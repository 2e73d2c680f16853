import { type Line, samePage } from '@/core/lists/line'

/** Lines that are not saved; null where they are what the edition says. */
export type Draft = Line[] | null

/** How long after a draft could not be kept it is sent again, in milliseconds, and how often. */
const AGAIN = 2000
const TIMES = 30

const same = (a: Draft, b: Draft): boolean => (a === null || b === null ? a === b : samePage(a, b))

/**
 * Keeps drafts with the application one after the other, so that an older one never arrives after a newer one. A draft that could not be
 * sent is sent again, unless a newer one takes its place. Knows which drafts this page kept itself: one of these that comes
 * back with a page that was drawn earlier is no news from another page.
 */
export class DraftKeeper {
  /** What this page takes for kept. */
  private held: Draft
  private readonly mine: Draft[]
  private next: { edition: number; draft: Draft } | null = null
  private running: Promise<void> | null = null

  constructor(
    first: Draft,
    private readonly send: (edition: number, draft: Draft, over: readonly [Draft]) => Promise<{ elsewhere: boolean; kept?: Draft }>,
    private readonly onElsewhere: (elsewhere: boolean) => void,
    private readonly wait = (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms)),
  ) {
    this.held = first
    this.mine = [first]
  }

  /** Keeps a draft, once those before it are kept. Resolves when there is nothing left to send. */
  put(edition: number, draft: Draft): Promise<void> {
    this.remember(draft)
    this.next = { edition, draft }
    this.running ??= this.run().finally(() => {
      this.running = null
    })
    return this.running
  }

  /** Whether this page kept a draft itself, now or earlier. */
  isMine(draft: Draft): boolean {
    return this.mine.some((own) => same(own, draft))
  }

  /** Goes on from what another page kept, or from what was kept over it. */
  take(draft: Draft): void {
    this.held = draft
    this.remember(draft)
  }

  private remember(draft: Draft): void {
    if (!this.isMine(draft)) this.mine.push(draft)
  }

  private async run(): Promise<void> {
    let failed = 0
    while (this.next) {
      const now = this.next
      this.next = null
      try {
        const { elsewhere, kept } = await this.send(now.edition, now.draft, [this.held])
        failed = 0
        // What stands there is from this page too, as when it was saved meanwhile: no other page is at work.
        if (elsewhere && kept !== undefined && this.isMine(kept) && !same(kept, this.held)) {
          this.held = kept
          this.next ??= now
          continue
        }
        this.onElsewhere(elsewhere)
        if (!elsewhere) this.held = now.draft
      } catch {
        if (++failed > TIMES) return
        await this.wait(AGAIN)
        this.next ??= now
      }
    }
  }
}
