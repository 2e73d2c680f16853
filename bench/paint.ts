import { type ChildProcess, spawn } from 'node:child_process'
import { chromium, type Page } from '@playwright/test'
import type { Line } from '@/core/lists/line'

/** What a page keeps of the last key press that it was told to watch. */
declare global {
  interface Window {
    watchPaint: (key: string) => void
    painted: Promise<number>
  }
}

/**
 * Set before a key is pressed: the time in milliseconds from the press, by its event, until the balance has changed and a
 * frame with it was drawn. A task that is posted from an animation frame runs after that frame was painted.
 */
function watching(): void {
  window.watchPaint = (key) => {
    window.painted = new Promise((resolve) => {
      const cell = () => document.querySelector('[data-testid=balance]')?.textContent
      const before = cell()
      let pressed = 0
      window.addEventListener(
        'keydown',
        function own(event) {
          if (event.key !== key) return
          pressed = event.timeStamp
          window.removeEventListener('keydown', own, true)
        },
        true,
      )
      const seen = new MutationObserver(() => {
        if (pressed === 0 || cell() === before) return
        seen.disconnect()
        requestAnimationFrame(() => {
          const { port1, port2 } = new MessageChannel()
          port1.onmessage = () => resolve(performance.now() - pressed)
          port2.postMessage(null)
        })
      })
      seen.observe(document.body, { subtree: true, childList: true, characterData: true })
    })
  }
}

export interface Painted {
  /** From Enter in the form of a line, with a value never asked before, to its numbers on the screen. */
  edits: number[]
  /** From Ctrl Z to the numbers as they were. */
  undone: number[]
}

/**
 * Opens a list in Chromium over the running engine and edits its line of *contacted within* again and again, by keyboard.
 * `env` is what the application runs with; it is started here and ended again.
 */
export async function paint(env: NodeJS.ProcessEnv, port: number, list: number, lines: Line[], times: number): Promise<Painted> {
  const app: ChildProcess = spawn(process.execPath, ['node_modules/next/dist/bin/next', 'start', '-H', '127.0.0.1', '-p', String(port)], {
    env: { ...env, PORT: String(port), NODE_ENV: 'production' },
    stdio: ['ignore', 'ignore', 'inherit'],
  })
  const url = `http://localhost:${port}`
  try {
    for (
      const until = Date.now() + 60_000;
      !(await fetch(`${url}/sign-in`).then(
        (r) => r.ok,
        () => false,
      ));
    ) {
      if (Date.now() > until) throw new Error('the application did not come up')
      await new Promise((resolve) => setTimeout(resolve, 200))
    }
    const browser = await chromium.launch({
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
    })
    try {
      const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
      // What compiles this names functions by a helper that a page does not have.
      await page.addInitScript('globalThis.__name = (own) => own')
      await page.addInitScript(watching)
      await page.goto(`${url}/sign-in`)
      await page.getByLabel('E-mail').fill('ines@brackenfold.example')
      await page.getByLabel('Password').fill('rain-on-the-roof')
      await page.getByRole('button', { name: 'Sign in' }).click()
      await page.waitForURL('**/lists')
      await page.goto(`${url}/lists/${list}`)
      const number = lines.findIndex((line) => 'criterion' in line && line.criterion.kind === 'contacted') + 1
      await page.getByTestId('balance').getByText(/\d/).waitFor()
      const painted: Painted = { edits: [], undone: [] }
      for (let i = 0; i < times; i++) {
        painted.edits.push(await edit(page, number, 70 + i))
        await page.evaluate(() => (document.activeElement as HTMLElement)?.blur())
        await settled(page)
        await page.evaluate(() => window.watchPaint('z'))
        await page.keyboard.press('Control+z')
        painted.undone.push(await page.evaluate(() => window.painted))
        await settled(page)
      }
      return painted
    } finally {
      await browser.close()
    }
  } finally {
    app.kill('SIGTERM')
  }
}

/** Another number of days for a line, by the keyboard; Enter is what is timed. */
async function edit(page: Page, line: number, days: number): Promise<number> {
  await page.getByTestId(`line-${line}`).locator('.chip').first().click()
  await page.getByLabel('Days', { exact: true }).fill(String(days))
  await settled(page)
  await page.evaluate(() => window.watchPaint('Enter'))
  await page.getByLabel('Days', { exact: true }).press('Enter')
  return page.evaluate(() => window.painted)
}

/** Until nothing is asked for half a second: what was set off by the step before is not in the next one's time. */
async function settled(page: Page): Promise<void> {
  await page.waitForLoadState('networkidle').catch(() => {})
  await page.waitForTimeout(600)
}
