// How 5,000 texts go on the page of messages in Chromium: how long until they are there, frames a second while they are scrolled and gone
// through, and how long a filter takes. The whole product runs. `node bench/messages-page.mjs [texts]`
import { mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { loadCore } from './core.mjs'
import { framesOn } from './frames.mjs'

const texts = Number(process.argv[2] ?? 5000)
const { startApp, openBrowser } = await loadCore('./tests/e2e/app.ts', './tests/e2e/browser.ts')
const print = (what, words) => process.stdout.write(`${what.padEnd(34)} ${words}\n`)
const line = (i) => `  text-${i}: "[amber]{player}[/] was here ${i} times${i % 3 === 0 ? ', and goes on' : ''}."\n`

const app = await startApp({ bare: true })
const browser = await openBrowser()
const { page } = browser
try {
  await page.goto(app.link)
  await page.waitForSelector('.spine')
  const folder = join(app.folder, 'servers/lantern-row/extras/Wardkeys')
  mkdirSync(folder, { recursive: true })
  writeFileSync(join(folder, 'texts.yml'), `messages:\n${Array.from({ length: texts }, (_x, i) => line(i)).join('')}`)
  const began = performance.now()
  await page.goto(`${app.origin}/s/lantern-row/messages`)
  await page.waitForFunction(() => document.querySelectorAll('.book .line').length > 5)
  print(
    'opened',
    `after ${Math.round(performance.now() - began)} ms: ${await page.$eval('.tally', (tally) => tally.innerText.replace(/\s+/g, ' '))}`,
  )
  print('scrolling', await framesOn(page, () => (document.querySelector('.book').scrollTop += 240)))
  await page.evaluate(() => document.activeElement.blur())
  print(
    'going down a text each frame',
    await framesOn(page, () => window.dispatchEvent(new KeyboardEvent('keydown', { key: 'j', bubbles: true }))),
  )
  const filtered = await page.evaluate(async () => {
    const field = document.querySelector('input[type="search"]')
    const from = performance.now()
    field.value = '4999 times'
    field.dispatchEvent(new Event('input'))
    while (document.querySelectorAll('.book .line').length > 3) await new Promise(requestAnimationFrame)
    return performance.now() - from
  })
  print('filtered to one', `after ${Math.round(filtered)} ms`)
} finally {
  await browser.close()
  await app.stop()
}
