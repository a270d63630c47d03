// npm run bench:page: what the first page costs on the wire, in Chromium, before it can be used. Printed, not asserted:
// tests/e2e/page-budget.test.ts holds the budget.
import { loadCore } from './core.mjs'

const { startApp, openBrowser, weigh } = await loadCore('./tests/e2e/app.ts', './tests/e2e/browser.ts', './tests/e2e/weigh.ts')
const app = await startApp()
const browser = await openBrowser()
try {
  const kilobytes = (bytes) => `${(bytes / 1024).toFixed(0)} KB`
  await browser.page.goto(app.link)
  await browser.page.waitForSelector('.spine')
  for (const [name, path, ready] of [
    ['sign-in', '/sign-in', 'form'],
    ['plugins', '/s/lantern-row/plugins', '.spine li'],
    ['settings', '/s/lantern-row/settings/extras/Wardkeys/settings.yml', '[data-pointer]'],
  ]) {
    const { scripts, other, files } = await weigh(browser.page, app.origin + path, ready)
    process.stdout.write(`${name.padEnd(10)} scripts ${kilobytes(scripts).padStart(8)}   all else ${kilobytes(other).padStart(8)}\n`)
    for (const file of files.slice(0, 6)) process.stdout.write(`           ${kilobytes(file.bytes).padStart(8)} ${file.name}\n`)
  }
} finally {
  await browser.close()
  await app.stop()
}
