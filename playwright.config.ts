import { defineConfig } from '@playwright/test'

export default defineConfig({
  testDir: 'e2e',
  outputDir: '.data-test/playwright',
  fullyParallel: false,
  workers: 1,
  timeout: 600_000,
  expect: { timeout: 60_000 },
  // Rows of a file are matched by what the last search for duplicates learned: this file comes before any was made.
  projects: [
    { name: 'before a search for duplicates', testMatch: '**/any-file.spec.ts' },
    { name: 'after it', testIgnore: '**/any-file.spec.ts' },
  ],
  globalSetup: './e2e/support/start-application.ts',
  use: {
    baseURL: process.env.E2E_URL,
    viewport: { width: 1280, height: 800 },
    screenshot: 'only-on-failure',
    acceptDownloads: true,
    actionTimeout: 60_000,
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
})
