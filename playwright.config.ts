import { defineConfig } from '@playwright/test'

/**
 * Each application is started once, and its county is worked on by one file of tests after another. Some hang on what was not done
 * yet: rows of a file are matched by what the last search for duplicates learned, and a list holds everybody who came in before.
 * There are two cores, so bin/test has two applications worked on at once, each over its own copy of the county.
 */
const COUNTIES = {
  first: [
    'intake/any-file',
    'lists/by-hand',
    'directory/duplicates',
    'lists/lists-in-full',
    'sources/outside-sources',
    'screens',
    'lists/sharing',
    'screening/policies',
    'directory/make-lists',
    'intake/worst',
    'rounds/premises-rounds',
    'first-round',
  ],
  second: ['story', 'team/team', 'whole', 'merge-and-refuse', 'intake/wider-intake', 'without-a-mouse'],
}
const county = process.env.E2E_COUNTY as keyof typeof COUNTIES | undefined
const named = [...COUNTIES.first, ...COUNTIES.second]
const others = { name: 'others', testIgnore: named.map((name) => `**/${name}.spec.ts`) }

export default defineConfig({
  testDir: 'e2e',
  outputDir: `.data-test/playwright-${county ?? 'both'}`,
  fullyParallel: false,
  workers: 1,
  timeout: 600_000,
  expect: { timeout: 60_000 },
  projects: [
    ...(county ? COUNTIES[county] : named).map((name) => ({ name, testMatch: `**/${name}.spec.ts` })),
    ...(county === 'first' ? [] : [others]),
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
