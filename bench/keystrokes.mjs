// What a keystroke costs on the main thread of the browser in a settings file of 20,000 entries: npm run bench:keys
// The whole product runs, Chromium types, and the browser itself says how long its main thread was busy.
import { mkdirSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { loadCore } from './core.mjs'
import { manyEntries } from './data.mjs'

const entries = Number(process.argv[2] ?? 20_000)
const KEYS = 'ferrymen of the lower row say hello'
const { startApp, openBrowser } = await loadCore('./tests/e2e/app.ts', './tests/e2e/browser.ts')

const app = await startApp({ bare: true })
const browser = await openBrowser()
const { page } = browser
try {
  await page.goto(app.link)
  await page.waitForSelector('.spine')
  // what the browser itself takes, drawing in software: a file of a few lines
  const folder = join(app.folder, 'servers/lantern-row/extras/Wardkeys')
  mkdirSync(folder, { recursive: true })
  writeFileSync(join(folder, 'small.yml'), manyEntries(4))
  await page.goto(`${app.origin}/s/lantern-row/settings/extras/Wardkeys/small.yml`)
  await (await page.waitForSelector('[data-pointer="/entries/entry-3/title"] input')).click()
  report('a file of 4 entries', await typing())
  const text = manyEntries(entries)
  writeFileSync(join(folder, 'large.yml'), text)
  const began = performance.now()
  await page.goto(`${app.origin}/s/lantern-row/settings/extras/Wardkeys/large.yml`)
  await page.waitForSelector('[data-pointer="/entries/entry-0/title"] input')
  const opened = performance.now() - began
  const drawn = await page.evaluate(() => document.querySelectorAll('[data-pointer]').length)
  const rows = await page.evaluate(() => Number(document.querySelector('[role="grid"]').getAttribute('aria-rowcount')))
  print('entries, rows, drawn', `${entries}, ${rows}, ${drawn}`)
  print('size', `${(text.length / 1e6).toFixed(2)} MB, first rows after ${Math.round(opened)} ms`)

  await page.click('[data-pointer="/entries/entry-3/title"] input')
  report('sheet, near the start', await typing())
  await page.evaluate(() => {
    const box = document.querySelector('.scroll')
    box.scrollTop = box.scrollHeight / 2
  })
  await page.waitForFunction(
    (first) => document.querySelector('[data-pointer$="/title"]')?.dataset.pointer !== first,
    {},
    '/entries/entry-0/title',
  )
  const field = await page.evaluateHandle(() => {
    const box = document.querySelector('.scroll').getBoundingClientRect()
    return [...document.querySelectorAll('[data-pointer$="/title"] input')].find((item) => item.getBoundingClientRect().top > box.top + 200)
  })
  await field.click()
  report('sheet, in the middle', await typing())
  await page.keyboard.press('Escape')
  await page.keyboard.press('s')
  await page.waitForSelector('.cm-content')
  await page.click('.cm-line:nth-child(12)')
  report('source', await typing())
} finally {
  await browser.close()
  await app.stop()
}

/** Types, and lets the browser count: scripts and busy time a key, the slowest handler, and work that took long in one go. */
async function typing() {
  const session = await page.createCDPSession()
  await session.send('Performance.enable')
  const busy = async () => (await session.send('Performance.getMetrics')).metrics.find((item) => item.name === 'TaskDuration').value * 1000
  await page.evaluate(() => {
    window.handled = []
    new PerformanceObserver((list) => {
      for (const entry of list.getEntries())
        if (['keydown', 'keypress', 'beforeinput', 'input', 'keyup'].includes(entry.name))
          window.handled.push(entry.processingEnd - entry.processingStart)
    }).observe({ type: 'event', durationThreshold: 16 })
    window.long = []
    new PerformanceObserver((list) => window.long.push(...list.getEntries().map((entry) => entry.duration))).observe({ type: 'longtask' })
  })
  await session.send('Profiler.enable')
  await session.send('Profiler.start')
  const before = await busy()
  for (const key of KEYS) await page.keyboard.type(key, { delay: 100 })
  const after = await busy()
  const { profile } = await session.send('Profiler.stop')
  const seen = await page.evaluate(() => ({ handled: Math.max(0, ...window.handled), long: window.long }))
  await session.detach()
  // everything but idling and what the browser does of itself: scripts, with the garbage they leave
  const own = new Set(
    profile.nodes.filter(({ callFrame }) => !['(idle)', '(program)', '(root)'].includes(callFrame.functionName)).map(({ id }) => id),
  )
  const script = profile.samples.reduce((sum, id, i) => sum + (own.has(id) ? profile.timeDeltas[i] : 0), 0) / 1000
  return { busy: (after - before) / KEYS.length, script: script / KEYS.length, ...seen }
}

function report(name, { busy, script, handled, long }) {
  const over = long.length === 0 ? 'no task over 50 ms' : `${long.length} tasks over 50 ms, the longest ${Math.round(Math.max(...long))} ms`
  print(
    name,
    `${script.toFixed(1)} ms of scripts a keystroke (${busy.toFixed(1)} ms with drawing); slowest handler ${handled.toFixed(1)} ms; ${over}`,
  )
}

function print(name, value) {
  process.stdout.write(`${name.padEnd(24)} ${value}\n`)
}
