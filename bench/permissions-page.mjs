// How 200 groups and 5,000 nodes go on the page of permissions in Chromium: how long until they are there, frames a second while they are
// scrolled down and across and gone through, and how long all answers take. The whole product runs.
// `node bench/permissions-page.mjs [groups] [nodes]`
import { mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { loadCore } from './core.mjs'
import { framesOn } from './frames.mjs'

const [groups, nodes] = [Number(process.argv[2] ?? 200), Number(process.argv[3] ?? 5000)]
const { startApp, openBrowser } = await loadCore('./tests/e2e/app.ts', './tests/e2e/browser.ts')
const print = (what, words) => process.stdout.write(`${what.padEnd(34)} ${words}\n`)
const each = Math.ceil(nodes / groups)
/** Every tenth group begins a line of ten that inherit from each other. */
const group = (i) =>
  `  group-${i}:\n    weight: ${i}\n    inherits: [${i % 10 === 0 ? '' : `group-${i - 1}`}]\n    nodes:\n${Array.from(
    { length: each },
    (_x, j) => `      - ${j % 7 === 3 ? '-' : ''}part-${j % 40}.thing-${i * each + j}\n`,
  ).join('')}      - part-${i % 40}.*\n`

const app = await startApp({ bare: true })
const browser = await openBrowser()
const { page } = browser
try {
  await page.goto(app.link)
  await page.waitForSelector('.spine')
  const folder = join(app.folder, 'servers/lantern-row/extras/Wardkeys')
  mkdirSync(folder, { recursive: true })
  writeFileSync(
    join(folder, 'settings.yml'),
    `newcomers:\n  group: group-0\ngroups:\n${Array.from({ length: groups }, (_x, i) => group(i)).join('')}`,
  )
  // the files are looked at once before; what opens then is the page
  await page.goto(`${app.origin}/s/lantern-row/findings`)
  await page.waitForFunction(async () => (await fetch('/api/servers/lantern-row/permissions')).ok)
  await page.goto(`${app.origin}/s/lantern-row/plugins`)
  await page.waitForSelector('.spine')
  const began = performance.now()
  await page.keyboard.press('g')
  await page.keyboard.press('r')
  await page.waitForFunction(() => document.querySelectorAll('.rights .right[class*=sign]').length > 100)
  print(
    'opened',
    `after ${Math.round(performance.now() - began)} ms: ${await page.$eval('.tally', (tally) => tally.innerText.replace(/\s+/g, ' '))}`,
  )
  print('scrolling down', await framesOn(page, (i) => (document.querySelector('.rights').scrollTop = (i + 1) * 120)))
  print('scrolling across', await framesOn(page, (i) => (document.querySelector('.rights').scrollLeft = (i + 1) * 64)))
  await page.evaluate(() => document.activeElement.blur())
  print(
    'going down a node each frame',
    await framesOn(page, () => window.document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'j', bubbles: true }))),
  )
} finally {
  await browser.close()
  await app.stop()
}
