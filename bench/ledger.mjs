// How a ledger of 5,000 entries goes in Chromium: frames a second while it is scrolled and edited, and how long it takes from
// pasting rows to what they would change. The whole product runs. `node bench/ledger.mjs [entries]`
import { mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { loadCore } from './core.mjs'
import { framesOn } from './frames.mjs'

const entries = Number(process.argv[2] ?? 5000)
const { startApp, openBrowser } = await loadCore('./tests/e2e/app.ts', './tests/e2e/browser.ts')
const print = (what, words) => process.stdout.write(`${what.padEnd(34)} ${words}\n`)
const row = (i) => `  item_${i}:\n    buy: ${10 + i}\n    sell: ${i}\n    stock: 12\n    group: ${['quay', 'kiln', 'ferry'][i % 3]}\n`

const app = await startApp({ bare: true })
const browser = await openBrowser()
const { page } = browser
const frames = (act) => framesOn(page, act)
try {
  await page.goto(app.link)
  await page.waitForSelector('.spine')
  const folder = join(app.folder, 'servers/lantern-row/extras/Wardkeys')
  mkdirSync(folder, { recursive: true })
  writeFileSync(join(folder, 'goods.yml'), `goods:\n${Array.from({ length: entries }, (_x, i) => row(i)).join('')}`)
  await page.goto(`${app.origin}/s/lantern-row/settings/extras/Wardkeys/goods.yml`)
  await page.waitForSelector('[data-pointer="/goods/item_0/buy"]')
  const began = performance.now()
  await page.goto(`${app.origin}/s/lantern-row/settings/extras/Wardkeys/goods.yml?table=/goods`)
  await page.waitForSelector('[role="grid"]:focus .td')
  print('opened', `${entries} rows after ${Math.round(performance.now() - began)} ms`)
  print('scrolling', await frames(() => (document.querySelector('[role="grid"]').scrollTop += 240)))
  print('going down a row each frame', await frames(() => press('ArrowDown')))
  // five cells in a second, which is more than anybody types
  print('editing five cells a second', await frames((i) => (i % 12 === 0 ? press(String(i % 10)) : i % 12 === 6 && press('Enter'))))
  // a cell is edited and left in every other frame
  print('editing a cell each second frame', await frames((i) => press(i % 2 === 0 ? String(i % 10) : 'Enter')))
  await page.focus('[role="grid"]')
  const pasted = Array.from({ length: 500 }, (_x, i) => `${i % 10 === 9 ? 'itm_' : 'item_'}${i * 7}\t${i}\t${i}`).join('\n')
  const paste = await page.evaluate(async (text) => {
    const clipboardData = new DataTransfer()
    clipboardData.setData('text', text)
    const from = performance.now()
    document.activeElement.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }))
    while (!document.body.innerText.includes('matched by id')) await new Promise(requestAnimationFrame)
    return performance.now() - from
  }, pasted)
  print('500 rows pasted, 50 unknown', `preview after ${Math.round(paste)} ms`)
} finally {
  await browser.close()
  await app.stop()
}
