import type { Page } from 'puppeteer-core'

export interface Weight {
  /** Bytes of scripts on the wire, compressed as they come, until the page can be used. */
  readonly scripts: number
  /** Bytes of everything else but the API's answers. */
  readonly other: number
  /** Scripts by weight, the heaviest first. */
  readonly files: readonly { readonly name: string; readonly bytes: number }[]
}

/** Opens a page with an empty cache and counts what comes over the wire until something can be used on it. */
export async function weigh(page: Page, address: string, ready: string): Promise<Weight> {
  // what the page before still fetches is not of this one
  await page.goto('about:blank')
  const client = await page.createCDPSession()
  await client.send('Network.enable')
  await client.send('Network.setCacheDisabled', { cacheDisabled: true })
  const seen = new Map<string, { url: string; type: string; bytes: number }>()
  client.on('Network.responseReceived', ({ requestId, response, type }) => seen.set(requestId, { url: response.url, type, bytes: 0 }))
  client.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
    const request = seen.get(requestId)
    if (request) request.bytes = encodedDataLength
  })
  await page.goto(address, { waitUntil: 'load' })
  await page.waitForSelector(ready)
  const all = [...seen.values()].filter(({ url }) => !url.includes('/api/'))
  await client.detach()
  const isScript = ({ url }: { url: string }): boolean => url.endsWith('.js')
  const sum = (items: typeof all): number => items.reduce((total, { bytes }) => total + bytes, 0)
  return {
    scripts: sum(all.filter(isScript)),
    other: sum(all.filter((item) => !isScript(item))),
    files: all
      .filter(isScript)
      .map(({ url, bytes }) => ({ name: url.split('/').pop()!, bytes }))
      .sort((a, b) => b.bytes - a.bytes),
  }
}
