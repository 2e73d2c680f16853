import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

const alias = { '@': fileURLToPath(new URL('./src', import.meta.url)) }

/** Files that stand in for a part of the application, change the environment or run their own servers: each in a process of its own. */
const ALONE = [
  'tests/db/work/*.test.ts',
  'tests/db/team/matrix.test.ts',
  'tests/db/team/news.test.ts',
  'tests/db/team/secrets.test.ts',
  'tests/db/intake/undo-orders.test.ts',
]

export default defineConfig({
  test: {
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
