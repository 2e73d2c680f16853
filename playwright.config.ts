import { defineConfig } from '@playwright/test'

/**
 * The application is started once, and its county is worked on by one file of tests after another. Some hang on what was not done
 * yet: rows of a file are matched by what the last search for duplicates learned, and a list holds everybody who came in before.
 */
const ORDER = [
  'intake/any-file',
  'lists/by-hand',
  'directory/duplicates',
  'lists/lists-in-full',
  'sources/outside-sources',
  'screens',
  'lists/sharing',
  'story',
  'team/team',
  'whole',
  'merge-and-refuse',
  'intake/wider-intake',
  'screening/policies',
  'without-a-mouse',
  'first-round',
  'directory/make-lists',
  'intake/worst',
]

export default defineConfig({
  testDir: 'e2e',
  outputDir: '.data-test/playwright',
  fullyParallel: false,
  workers: 1,
  timeout: 600_000,
  expect: { timeout: 60_000 },
  projects: [
    ...ORDER.map((name) => ({ name, testMatch: `**/${name}.spec.ts` })),
    { name: 'others', testIgnore: ORDER.map((name) => `**/${name}.spec.ts`) },
  ],
  globalSetup: './e2e/support/start-application.ts',
  use: {
    baseURL: process.env.E2E_URL,
    viewport: { width: 1280, height: 800 },
    screenshot: 'only-on-failure',
    acceptDownloads: true,
    actionTimeout: 60_000,
    navigationTimeout: 60_000,
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
