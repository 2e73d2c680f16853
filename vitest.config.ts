import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'
import { BaseSequencer, type TestSpecification } from 'vitest/node'

const alias = { '@': fileURLToPath(new URL('./src', import.meta.url)) }

/** Files that stand in for a part of the application, change the environment or run their own servers: each in a process of its own. */
const ALONE = [
  'tests/db/work/*.test.ts',
  'tests/db/team/matrix.test.ts',
  'tests/db/team/news.test.ts',
  'tests/db/team/secrets.test.ts',
  'tests/db/intake/undo-orders.test.ts',
]

/** Those that take a minute or more are begun first, so that none of them is what everything waits for at the end. Many only wait. */
const LONGEST = [
  'db/team/matrix',
  'db/work/jobs',
  'db/work/two-years',
  'db/work/worker',
  'db/rounds/mail.test',
  'db/work/kill',
  'db/work/full-disk',
  'db/work/care',
  'db/changes/twelve-weeks',
  'db/intake/intake.test',
  'core/match/scored',
]

class LongestFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const place = ({ moduleId }: TestSpecification) => {
      const at = LONGEST.findIndex((name) => moduleId.includes(`/tests/${name}`))
      return at === -1 ? LONGEST.length : at
    }
    return (await super.sort(files)).sort((a, b) => place(a) - place(b))
  }
}

export default defineConfig({
  test: {
    sequence: { sequencer: LongestFirst },
    projects: [
      {
        resolve: { alias },
        test: {
          name: 'core',
          include: ['tests/core/**/*.test.ts', 'tests/formats/**/*.test.ts'],
          // The core reads no clock and keeps nothing, so one process takes file after file.
          isolate: false,
          pool: 'forks',
          setupFiles: ['tests/support/seed.ts'],
          maxWorkers: 2,
          testTimeout: 60_000,
        },
      },
      {
        resolve: { alias },
        test: {
          name: 'db',
          include: ['tests/db/**/*.test.ts'],
          exclude: ALONE,
          // Loading the application takes some five seconds, so one process takes file after file, each with a database of its own.
          isolate: false,
          pool: 'forks',
          maxWorkers: 3,
          setupFiles: ['tests/support/seed.ts'],
          testTimeout: 120_000,
          hookTimeout: 180_000,
        },
      },
      {
        resolve: { alias },
        test: {
          name: 'db-alone',
          include: ALONE,
          pool: 'forks',
          maxWorkers: 3,
          setupFiles: ['tests/support/seed.ts'],
          testTimeout: 120_000,
          hookTimeout: 180_000,
        },
      },
    ],
  },
})
