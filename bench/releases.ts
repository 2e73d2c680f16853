import { monitorEventLoopDelay } from 'node:perf_hooks'
import { newRule } from '@/core/screening/new-rule'
import type { Rule } from '@/core/screening/rules'
import { askEngine } from '@/engine/client'
import { createList } from '@/usecases/lists/create-list'
import { releaseRound } from '@/usecases/rounds/release-round'
import { START } from './lists'
import { latestEdition } from '@/db/lists/list-rows'
import { startRound } from '@/usecases/rounds/start-round'
import { setRules } from '@/usecases/rounds/set-rules'
import { suppress } from '@/usecases/screening/suppress'
import { app, ines, people, record, rules, screening, timed } from './measuring'

/** At most three of an organisation, and one contact an address. */
const SETS = (['per-organisation', 'same-address'] as const).map((kind) => newRule(kind, rules) as Rule)

/** Release of 100,000 and of 200,000 with files; then the list against that round. */
export async function releases(): Promise<void> {
  const limited = (most: number) => [
    START,
    {
      id: 'l',
      verb: 'limit' as const,
      off: false,
      most: Math.min(most, people),
      per: 'all' as const,
      rank: 'first in the directory' as const,
    },
  ]
  for (const [most, aim, ofSets] of [
    [100_000, '30 s', false],
    [100_000, '30 s', true],
    [200_000, undefined, false],
  ] as const) {
    const list = await createList(ines, `${most}${ofSets ? ' with rules about sets' : ''}`, true, limited(most))
    const round = await startRound(ines, list)
    // The second list holds the people of the first, whose round is still out.
    await setRules(ines, round, [...rules.map((r) => (r.kind === 'another-round' ? { ...r, off: true } : r)), ...(ofSets ? SETS : [])])
    // Others go on suppressing people all the while.
    const waits: number[] = []
    let over = false
    const writing = (async () => {
      for (let i = 0; !over; i++) {
        waits.push(
          (
            await timed(() =>
              suppress(
                ines,
                { text: `outsider-${most}-${i}@elsewhere.example` },
                { reason: 'opt-out', channels: ['email'], word: 'a letter' },
              ),
            )
          )[0],
        )
        await new Promise((resolve) => setTimeout(resolve, 50))
      }
    })()
    const loop = monitorEventLoopDelay({ resolution: 10 })
    loop.enable()
    const [time] = await timed(() => releaseRound(ines, round))
    loop.disable()
    over = true
    await writing
    record(
      `a suppression written while ${most.toLocaleString('en')} are released`,
      waits,
      '1 s at most',
      `the longest ${Math.round(Math.max(...waits))} ms of ${waits.length}; the process that releases answered nobody for ${Math.round(loop.max / 1e6)} ms at most`,
    )
    record(`release of ${most.toLocaleString('en')} people with files${ofSets ? ', two rules about sets' : ''}`, [time], aim)
    if (ofSets) continue
    if (most === 200_000) {
      const { lines } = await latestEdition(list)
      const requalify = () =>
        askEngine('requalify', {
          then: [{ round, page: { lines, named: {} } }],
          now: {
            lines: [...lines, { id: 'n', verb: 'keep', off: false, unknownAsYes: false, criterion: { kind: 'reach', channel: 'post' } }],
            named: {},
          },
          rules,
          moment: { ...screening, exceptRounds: [round] },
          view: { account: 'listed', tab: 'left' },
          page: { offset: 0, limit: 60 },
        })
      const [cold] = await timed(requalify)
      const again: number[] = []
      for (let i = 0; i < 20; i++) {
        await app('person')
          .where({ id: 1 + i })
          .update({ role: 'Once more' })
        again.push((await timed(requalify))[0])
      }
      record('requalify against a frozen round of 200,000', again, '300 ms', `the first time, the round being read, ${Math.round(cold)} ms`)
    }
  }
}
