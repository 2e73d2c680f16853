import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

const alias = { '@': fileURLToPath(new URL('./src', import.meta.url)) }

export default defineConfig({
  test: {
    projects: [
      {
        resolve: { alias },
        test: {
          name: 'core',
          include: ['tests/core/**/*.test.ts', 'tests/formats/**/*.test.ts'],
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
