import { request } from 'node:http'
import { brotliDecompressSync, gunzipSync } from 'node:zlib'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { keyFor, startApp, type RunningApp } from './app'
import { openBrowser, reads, type OpenBrowser } from './browser'
import { weigh } from './weigh'

interface Answer {
  readonly status: number
  readonly headers: Readonly<Record<string, string | string[] | undefined>>
  readonly body: Buffer
}

/** What a page may cost in scripts before it can be used; the editor comes with the source, and is not of the first page. */
const BUDGET = 250 * 1024

describe('what goes over the wire', () => {
  let app: RunningApp
  let browser: OpenBrowser
  let cookie = ''
  beforeAll(async () => {
    app = await startApp({ bare: true })
    const signIn = await fetch(`${app.origin}/api/sign-in`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ key: keyFor(app, 'maren') }),
    })
    cookie = signIn.headers.getSetCookie()[0]!
    browser = await openBrowser()
    await browser.page.goto(app.link)
    await reads(browser.page, 'On this server')
  }, 240_000)
  afterAll(async () => {
    await browser?.close()
    await app?.stop()
  })

  /** A request that decodes nothing by itself. */
  const ask = (path: string, encoding = 'identity', method = 'GET'): Promise<Answer> =>
    new Promise((resolve, reject) => {
      const options = { method, headers: { 'accept-encoding': encoding, cookie: cookie.split(';')[0]! } }
      request(app.origin + path, options, (response) => {
        const parts: Buffer[] = []
        response.on('data', (part: Buffer) => parts.push(part))
        response.on('end', () => resolve({ status: response.statusCode!, headers: response.headers, body: Buffer.concat(parts) }))
      })
        .on('error', reject)
        .end()
    })
  const scripts = async (): Promise<string[]> =>
    [...(await ask('/')).body.toString().matchAll(/\/_nuxt\/[\w-]+\.(?:js|css)/g)].map(([path]) => path)

  it('every answer carries its security headers, and none tells what it is made with', async () => {
    const [script] = await scripts()
    for (const path of [
      '/',
      '/sign-in',
      '/s/lantern-row/plugins',
      script!,
      '/mark.svg',
      '/api/me',
      '/api/none',
      '/api/people',
      '/_nuxt/none.js',
    ]) {
      const { headers } = await ask(path)
      expect(headers, path).toMatchObject({
        'x-content-type-options': 'nosniff',
        'referrer-policy': 'no-referrer',
        'content-security-policy': expect.stringContaining("frame-ancestors 'none'") as unknown,
      })
      expect(headers['x-powered-by'], path).toBeUndefined()
      if (path.startsWith('/api/')) expect(headers['cache-control'], path).toBe('no-store')
    }
  })

  it('what is no route of the API says so, and is no page', async () => {
    for (const method of ['GET', 'POST', 'DELETE']) {
      const { status, headers, body } = await ask('/api/none?x=1', 'identity', method)
      expect([status, headers['content-type']]).toEqual([404, 'application/problem+json'])
      expect(JSON.parse(body.toString())).toMatchObject({ code: 'not-found', title: 'There is no address /api/none here.' })
    }
  })

  it.each([
    ['{bad', 'The request cannot be read: its body is not JSON.'],
    ['[]', 'The request is not right: its body must be a JSON object.'],
    ['"text"', 'The request is not right: its body must be a JSON object.'],
    ['', 'The request is not right: give a name and a password, or the key of a link.'],
    ['{"name":5,"password":"x"}', 'name must be a `string` type'],
    ['{"name":"x","password":"y","more":1}', 'more'],
  ])('a body that reads %s is refused in words', async (body, words) => {
    const headers = { 'content-type': 'application/json' }
    const response = await fetch(`${app.origin}/api/sign-in`, { method: 'POST', body, headers })
    const answer = (await response.json()) as { code: string; title: string }
    expect([response.status, answer.code]).toEqual([400, 'bad-input'])
    expect(answer.title).toContain(words)
    expect(answer.title).not.toMatch(/\.\./)
  })

  it('a page’s inline scripts carry the nonce of their answer, which no other has', async () => {
    const pages = await Promise.all([ask('/'), ask('/')])
    const nonces = pages.map(({ headers, body }) => {
      const nonce = /script-src 'self' 'nonce-([^']+)'/.exec(String(headers['content-security-policy']))![1]!
      for (const [tag] of body.toString().matchAll(/<(?:script|style)\b[^>]*>/g)) expect(tag).toContain(`nonce="${nonce}"`)
      return nonce
    })
    expect(nonces[0]).not.toBe(nonces[1])
  })

  it('the session’s cookie is for our own pages only, and no script reads it', () => {
    expect(cookie).toMatch(/HttpOnly/)
    expect(cookie).toMatch(/SameSite=Strict/)
    expect(cookie).not.toMatch(/Secure/)
  })

  it('scripts and styles come as small as one understands them, and the same', async () => {
    for (const path of await scripts()) {
      const plain = await ask(path)
      for (const [encoding, decode] of [
        ['br', brotliDecompressSync],
        ['gzip', gunzipSync],
      ] as const) {
        const packed = await ask(path, encoding)
        // what is tiny gains nothing
        if (packed.headers['content-encoding'] === undefined && plain.body.length < 2048) continue
        expect(packed.headers['content-encoding'], path).toBe(encoding)
        expect(decode(packed.body).equals(plain.body), path).toBe(true)
      }
      expect(String(plain.headers['cache-control']), path).toContain('immutable')
    }
  })

  it.each([
    ['/sign-in', 'form'],
    ['/s/lantern-row/plugins', '.rows li'],
    ['/s/lantern-row/settings/extras/Wardkeys/settings.yml', '[data-pointer]'],
    ['/s/lantern-row/updates', '.state'],
    ['/s/lantern-row/history', '.state'],
    ['/servers', '.srv'],
    ['/sites', '.versions'],
    ['/people', 'table'],
  ])('%s can be used after at most 250 KB of scripts', async (path, ready) => {
    const { scripts: bytes, files } = await weigh(browser.page, app.origin + path, ready)
    expect(bytes, JSON.stringify(files.slice(0, 5))).toBeLessThanOrEqual(BUDGET)
    expect(bytes).toBeGreaterThan(50 * 1024)
  })
})
