import type { Page } from 'puppeteer-core'
import type { RunningApp } from './app'
import { press } from './browser'

/** One surface as the margin shows it: its name, and a picture of its reading on each ground. */
interface Tile {
  readonly name: string
  readonly pictures: readonly string[]
}

const SERVERS = ['lantern-row', 'night-market', 'ferry-trials'] as const

/** One picture of every surface that the demo's texts have, by day above and in the evening below. */
export async function shootSurfaces(app: RunningApp, page: Page, path: string): Promise<void> {
  const day = await tilesOf(app, page)
  await press(page, 'Evening')
  const evening = await tilesOf(app, page)
  await press(page, 'Evening')
  await page.goto('about:blank')
  const half = (tiles: readonly Tile[], ground: string, ink: string): string =>
    `<section style="background:${ground};color:${ink}">${tiles
      .map(
        ({ name, pictures }) =>
          `<figure><figcaption>${name}</figcaption>${pictures.map((one) => `<img src="data:image/png;base64,${one}">`).join('')}</figure>`,
      )
      .join('')}</section>`
  await page.setContent(
    `<style>body{margin:0;font:12px sans-serif}section{display:grid;grid-template-columns:repeat(4,1fr);gap:8px 16px;padding:10px 16px}figure{margin:0}figcaption{padding-bottom:2px}img{display:block;width:100%;max-height:66px;object-fit:cover;object-position:left top;margin-bottom:3px}</style>${half(day, '#fbf8f1', '#35271f')}${half(evening, '#1f1814', '#f0e6d6')}`,
  )
  await page.screenshot({ path: path as `${string}.png`, fullPage: true })
}

async function tilesOf(app: RunningApp, page: Page): Promise<Tile[]> {
  const tiles = new Map<string, Tile>()
  for (const server of SERVERS) {
    await page.goto(`${app.origin}/s/${server}/messages`)
    await page.waitForSelector('.book .line')
    const count = (await page.$$('.strip button')).length
    for (let i = 1; i < count; i++) {
      await page.evaluate((at: number) => document.querySelectorAll<HTMLElement>('.strip button')[at]!.click(), i)
      await page.waitForSelector('.book .line')
      // one that is long or coloured shows more of what it looks like there
      await page.evaluate(() =>
        [...document.querySelectorAll<HTMLElement>('.book .line')]
          .sort((a, b) => b.querySelectorAll('.read [style]').length - a.querySelectorAll('.read [style]').length)[0]!
          .click(),
      )
      await page.waitForSelector('.margin .reading, .margin .paper')
      const name = await page.$eval('.margin h3', (head) => head.textContent!.trim())
      if (tiles.has(name)) continue
      const shown = await page.$$('.margin .reading, .margin .paper')
      tiles.set(name, { name, pictures: await Promise.all(shown.map((one) => one.screenshot({ encoding: 'base64' }))) })
    }
  }
  return [...tiles.values()]
}
