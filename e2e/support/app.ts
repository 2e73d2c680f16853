import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import AxeBuilder from '@axe-core/playwright'
import { expect, type Locator, type Page } from '@playwright/test'

/** Comes in as one of the demo people, at their lists. Whoever came in before is still signed in, where nothing ended that. */
export async function signIn(page: Page, name = 'Ines Okafor'): Promise<void> {
  const session = `${process.env.E2E_FILES}-sessions/${name}.json`
  if (existsSync(session)) {
    await page.context().addCookies(JSON.parse(readFileSync(session, 'utf8')))
    await page.goto('/lists')
    if (new URL(page.url()).pathname === '/lists') return
  }
  await page.goto('/sign-in')
  await page.getByRole('button', { name: new RegExp(name) }).click()
  await page.waitForURL('**/today')
  writeFileSync(session, JSON.stringify(await page.context().cookies()))
  await page.goto('/lists')
}

/** Sets the application's clock so many days on from today. */
export function daysOn(days: number): void {
  writeFileSync(process.env.E2E_CLOCK as string, new Date(Date.now() + days * 86_400_000).toISOString())
}

export function kill(name: 'engine' | 'worker' | 'application'): void {
  process.kill(Number(readFileSync(`${process.env.E2E_FILES}-${name}.pid`, 'utf8')), 'SIGKILL')
}

/** WCAG 2.2 A and AA by axe, without exceptions: the open dialog, or else the whole page. */
export async function accessible(page: Page): Promise<void> {
  // Only what is wrong is gathered, in the page itself: a table of hundreds of rows is looked at in two seconds instead of thirteen.
  const builder = new AxeBuilder({ page }).setLegacyMode(true).options({ resultTypes: ['violations'] })
  // What lies behind a dialog cannot be reached, and is looked at by itself.
  const dialog = '[role=dialog][data-state=open], [role=alertdialog][data-state=open]'
  if ((await page.locator(dialog).count()) > 0) builder.include(dialog)
  const { violations } = await builder.withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice']).analyze()
  expect(violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.html.slice(0, 160)).join(' | ')}`)).toEqual([])
}

/** Nothing main is cut off or scrolls sideways. */
export async function fits(page: Page): Promise<void> {
  const wide = await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth)
  expect(wide).toBeLessThanOrEqual(0)
}

/** A figure as a number: 1,234 is 1234; blank and zero are 0. */
export async function figure(text: Promise<string | null>): Promise<number> {
  const said = ((await text) ?? '').replace(/[^\d]/g, '')
  return said === '' ? 0 : Number(said)
}

/** The texts of the cells of some rows, line by line as they are seen, all read at one moment. Reads again where the page was loaded anew beneath it. */
export async function cellTexts(rows: Locator): Promise<string[][]> {
  let texts: string[][] = []
  await expect(async () => {
    // biome-ignore lint/performance/useDomNodeTextContent: lines are told apart as they are seen
    texts = await rows.evaluateAll((all) => all.map((row) => [...row.querySelectorAll('td')].map((cell) => cell.innerText)))
  }).toPass()
  return texts
}
