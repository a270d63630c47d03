import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { createRequire } from 'node:module'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import puppeteer, { type Browser, type KeyInput, type Page } from 'puppeteer-core'

const FLAGS = [
  '--headless',
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
]

export interface OpenBrowser {
  readonly page: Page
  /** Errors the pages threw, and what their policy kept from happening. */
  readonly errors: string[]
  close(): Promise<void>
}

/** Debian's Chromium with a fresh profile, 1280×800. */
export async function openBrowser(width = 1280, height = 800): Promise<OpenBrowser> {
  const executablePath = ['/usr/bin/chromium', '/usr/bin/chromium-browser', '/usr/bin/google-chrome'].find((path) => existsSync(path))
  if (!executablePath) throw new Error('Chromium is not installed; "npm test" says how.')
  const profile = mkdtempSync(join(tmpdir(), 'pasticcio-profile-'))
  const browser: Browser = await puppeteer.launch({ executablePath, args: FLAGS, userDataDir: profile, defaultViewport: { width, height } })
  const page = await browser.newPage()
  const errors: string[] = []
  page.on('pageerror', (error) => errors.push(String(error)))
  page.on('console', (message) => /Content Security Policy/.test(message.text()) && errors.push(message.text()))
  return {
    page,
    errors,
    async close() {
      await browser.close()
      rmSync(profile, { recursive: true, force: true })
    },
  }
}

/** Waits until an element of this role and name is there, stands still and can be pressed, and presses it. */
export async function press(page: Page, name: string, role = 'button'): Promise<void> {
  await page.locator(`::-p-aria([name="${name}"][role="${role}"])`).setTimeout(15_000).click()
}

/** Waits until a text is to be read on the page. */
export async function reads(page: Page, text: string, timeout = 20_000): Promise<void> {
  try {
    await page.waitForFunction((wanted: string) => document.body.innerText.includes(wanted), { timeout }, text)
  } catch (error) {
    const seen = await page.evaluate(() => `${location.pathname}\n${document.body.innerText}`)
    throw new Error(`“${text}” is not to be read at ${seen.slice(0, 3000)}`, { cause: error })
  }
}

/** Waits until a text is gone from the page. */
export async function readsNoMore(page: Page, text: string): Promise<void> {
  await page.waitForFunction((wanted: string) => !document.body.innerText.includes(wanted), { timeout: 20_000 }, text)
}

/** Fills a field of this name with a text, as typing over it would. */
export async function fill(page: Page, name: string, text: string): Promise<void> {
  await typeOver(page, `::-p-aria([name="${name}"])`, text)
}

/** Sets a setting of the sheet, as somebody who types over it and leaves the field. */
export async function setTo(page: Page, pointer: string, text: string): Promise<void> {
  await typeOver(page, `${line(pointer)} input`, text)
}

/**
 * Selects all of a field and types over it. Beside a field that moved under the pointer, because something above it came in, what
 * is typed would be keys of the page: nothing is typed until the field has the focus.
 */
async function typeOver(page: Page, selector: string, text: string): Promise<void> {
  const field = page.locator(selector).setTimeout(15_000)
  const isEntered = async (): Promise<boolean> =>
    (await field.waitHandle()).evaluate((item) => item.contains(item.ownerDocument.activeElement))
  let tries = 0
  do {
    if (tries++ === 5) throw new Error(`${selector} never took the focus`)
    await field.click({ count: 3 })
  } while (!(await isEntered()))
  await page.keyboard.type(text)
  await page.keyboard.press('Tab')
}

/** Pastes a text where the focus is. */
export async function pasteText(page: Page, text: string): Promise<void> {
  await page.evaluate((pasted) => {
    const clipboardData = new DataTransfer()
    clipboardData.setData('text', pasted)
    document.activeElement!.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }))
  }, text)
}

/** Presses a key with another one held. */
export async function pressHeld(page: Page, modifier: 'Control' | 'Shift' | 'Alt', ...keys: readonly KeyInput[]): Promise<void> {
  await page.keyboard.down(modifier)
  for (const key of keys) await page.keyboard.press(key)
  await page.keyboard.up(modifier)
}

/** Chooses from a list by the names of both. */
export async function choose(page: Page, label: string, option: string): Promise<void> {
  await page.locator(`::-p-aria([name="${label}"][role="combobox"])`).click()
  await page.locator(`::-p-aria([name="${option}"][role="option"])`).click()
}

/** The line of the sheet with this JSON Pointer. */
export function line(pointer: string): string {
  return `[data-pointer="${pointer}"]`
}

export interface AxeFinding {
  readonly rule: string
  readonly impact: string
  readonly help: string
  readonly nodes: readonly string[]
}

/** What axe-core finds on the page as it stands, from "serious" on. It is run, not added to the page, so that the policy holds. */
export async function axe(page: Page): Promise<AxeFinding[]> {
  const source = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')
  await page.evaluate(source)
  return page.evaluate(async () => {
    const { run } = (window as unknown as { axe: typeof import('axe-core') }).axe
    const { violations } = await run(document, { resultTypes: ['violations'] })
    // how well the game's own colours can be read is what a specimen shows, and tells in figures beside it
    const isSpecimen = (target: unknown): boolean => document.querySelector(String(target))?.closest('[data-specimen]') instanceof Element
    return violations
      .map((one) => (one.id === 'color-contrast' ? { ...one, nodes: one.nodes.filter(({ target }) => !isSpecimen(target[0])) } : one))
      .filter(({ impact, nodes }) => nodes.length > 0 && (impact === 'serious' || impact === 'critical'))
      .map(({ id, impact, help, nodes }) => ({
        rule: id,
        impact: String(impact),
        help,
        nodes: nodes.slice(0, 5).map(({ html, failureSummary }) => `${html.slice(0, 200)} — ${failureSummary ?? ''}`),
      }))
  })
}
