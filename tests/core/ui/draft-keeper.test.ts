import { describe, expect, test } from 'vitest'
import type { Line } from '@/core/lists/line'
import { type Draft, DraftKeeper } from '@/ui/lists/draft-keeper'

const lines = (...ids: string[]): Line[] => ids.map((id) => ({ id, verb: 'start', off: false, batch: null }))

/** The application, which keeps one draft: sends wait until they are let go, and may fail. */
function kept(first: Draft = null) {
  let stands = first
  const waiting: (() => void)[] = []
  const failing: boolean[] = []
  const elsewhere: boolean[] = []
  const sent: Draft[] = []
  const keeper = new DraftKeeper(
    first,
    async (_, draft, [over]) => {
      sent.push(draft)
      await new Promise<void>((resolve) => waiting.push(resolve))
      if (failing.shift()) throw new Error('the connection is lost')
      const known = JSON.stringify(stands) === JSON.stringify(over) || JSON.stringify(stands) === JSON.stringify(draft)
      if (known) stands = draft
      return known ? { elsewhere: false } : { elsewhere: true, kept: stands }
    },
    (own) => elsewhere.push(own),
    async () => {},
  )
  const letGo = async () => {
    waiting.shift()?.()
    await new Promise((resolve) => setTimeout(resolve))
  }
  const became = (draft: Draft) => {
    stands = draft
  }
  return { keeper, letGo, failing, elsewhere, sent, became, stands: () => stands, put: (draft: Draft) => void keeper.put(1, draft) }
}

describe('drafts are kept one after the other', () => {
  test('an undo that comes while the edit is on its way is what stands in the end', async () => {
    const { letGo, put, stands, sent, elsewhere } = kept()
    put(lines('a', 'b'))
    put(lines('a'))
    expect(sent).toEqual([lines('a', 'b')])
    await letGo()
    await letGo()
    expect(stands()).toEqual(lines('a'))
    expect(elsewhere).toEqual([false, false])
  })

  test('one that could not be sent is sent again, and holds up none that follows', async () => {
    const { letGo, put, stands, failing, elsewhere, sent } = kept()
    failing.push(true)
    put(lines('a'))
    await letGo()
    expect(sent).toEqual([lines('a'), lines('a')])
    await letGo()
    expect(stands()).toEqual(lines('a'))
    failing.push(true)
    put(lines('a', 'b'))
    put(lines('a', 'c'))
    await letGo()
    await letGo()
    expect(stands()).toEqual(lines('a', 'c'))
    // What failed was not taken for kept: nobody is told of another page that is not there.
    expect(elsewhere).not.toContain(true)
  })

  test('what this page kept earlier is its own when it comes back, and what another page kept is not', async () => {
    const { keeper, letGo, put } = kept(lines('a'))
    put(lines('a', 'b'))
    await letGo()
    put(lines('a', 'b', 'c'))
    await letGo()
    for (const own of [lines('a'), lines('a', 'b'), lines('a', 'b', 'c')]) expect(keeper.isMine(own)).toBe(true)
    expect(keeper.isMine(lines('z'))).toBe(false)
    expect(keeper.isMine(null)).toBe(false)
  })

  test('another page that kept something is told of, and nothing is written over; taken from there, this page goes on', async () => {
    const { keeper, letGo, put, elsewhere, stands, became } = kept(lines('a'))
    became(lines('z'))
    put(lines('a', 'b'))
    await letGo()
    expect(elsewhere).toEqual([true])
    expect(stands()).toEqual(lines('z'))
    keeper.take(lines('z'))
    put(lines('z', 'y'))
    await letGo()
    expect([elsewhere.at(-1), stands()]).toEqual([false, lines('z', 'y')])
  })

  test('once the lines are saved nothing is kept any more, and the next edit is no other page’s', async () => {
    const { letGo, put, elsewhere, stands, became } = kept()
    put(lines('a', 'b'))
    await letGo()
    became(null)
    put(lines('a', 'b', 'c'))
    await letGo()
    await letGo()
    expect([elsewhere, stands()]).toEqual([[false, false], lines('a', 'b', 'c')])
  })
})
