import { request as httpRequest, Agent } from 'node:http'
import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { cookiesByRole, startApp, type RunningApp } from './app'
import { ROUTES, type Route } from './route-table'

/** By hand more of them: FUZZ=100000. */
const REQUESTS = Number(process.env['FUZZ'] ?? 10_000)
const AT_ONCE = 24

/** What these do when they are asked rightly would end the test, or run programs of this machine. */
const APART = [
  'POST /api/sign-out',
  'POST /api/servers',
  'POST /api/servers/tries',
  'DELETE /api/servers/lantern-row',
  'PUT /api/servers/lantern-row/command',
]
const FUZZED = ROUTES.filter(({ method, path }) => !APART.includes(`${method} ${path}`) && !path.endsWith('/events'))

interface Sent {
  readonly route: Route
  readonly method: string
  readonly path: string
  readonly query: string
  readonly body: Buffer | null
  readonly type: string
  readonly who: 'owner' | 'editor' | 'viewer' | 'nobody'
}

const NASTY = [
  '',
  ' ',
  '..',
  '../../etc/passwd',
  '%zz',
  '%00',
  '%2e%2e%2f',
  'null',
  '__proto__',
  'constructor',
  '-1',
  '1e999',
  '0x10',
  '9'.repeat(30),
  'é',
  '🎏',
  "' OR 1=1 --",
  'a'.repeat(3000),
  '[object Object]',
  '{{7*7}}',
  '\u0000',
  '\ud800',
]
const nasty = fc.constantFrom(...NASTY)
const anything: fc.Arbitrary<unknown> = fc.oneof(
  { weight: 3, arbitrary: nasty },
  {
    weight: 1,
    arbitrary: fc.constantFrom(null, true, false, 0, -1, 1.5, 1e308, [], {}, [null], [[[[[]]]]], { __proto__: 1 }, ['x', 5, {}]),
  },
  { weight: 1, arbitrary: fc.jsonValue({ maxDepth: 4 }) },
  { weight: 1, arbitrary: fc.string({ maxLength: 60 }) },
)

/** A request that is right in form, with some of it made wrong. */
function mutated(route: Route): fc.Arbitrary<Sent> {
  const keys = Object.keys((route.body as Record<string, unknown> | undefined) ?? { path: 1, name: 1, text: 1 })
  const right = (route.body ?? {}) as Record<string, unknown>
  const changedBody = fc
    .dictionary(fc.oneof(fc.constantFrom(...(keys.length > 0 ? keys : ['x'])), nasty), anything, { maxKeys: 4 })
    .map((changes) => Buffer.from(JSON.stringify({ ...right, ...changes })))
  const brokenBody = fc.oneof(
    anything.map((value) => Buffer.from(JSON.stringify(value) ?? '')),
    fc.uint8Array({ maxLength: 200 }).map((bytes) => Buffer.from(bytes)),
    fc.constantFrom('{', '[[[', '{"a":', '\ufeff{}', '['.repeat(20_000), `{"a":"${'x'.repeat(20_000)}"}`).map((text) => Buffer.from(text)),
  )
  const parts = route.path.split('/')
  const path = fc
    .array(fc.tuple(fc.integer({ min: 2, max: parts.length - 1 }), nasty), { maxLength: 1 })
    .map((changes) => changes.reduce((all, [at, value]) => all.with(at, pathSafe(value)), parts).join('/'))
  return fc.record({
    route: fc.constant(route),
    method: fc.oneof(
      { weight: 9, arbitrary: fc.constant(route.method as string) },
      { weight: 1, arbitrary: fc.constantFrom('PATCH', 'GET', 'POST', 'OPTIONS', 'HEAD') },
    ),
    path: fc.oneof({ weight: 3, arbitrary: fc.constant(route.path) }, { weight: 1, arbitrary: path }),
    query: fc.oneof(
      fc.constant(route.query ?? ''),
      fc
        .array(fc.tuple(fc.constantFrom('path', 'package', 'name', 'sha', '__proto__', 'path[]'), nasty), { maxLength: 3 })
        .map((all) => all.map(([key, value]) => `${key}=${pathSafe(value)}`).join('&')),
    ),
    body: route.method === 'GET' ? fc.constant(null) : fc.oneof(changedBody, brokenBody, fc.constant(null)),
    type: fc.constantFrom(
      'application/json',
      'application/json; charset=utf-8',
      'text/plain',
      'application/x-www-form-urlencoded',
      'multipart/form-data',
      '',
    ),
    who: fc.constantFrom('owner' as const, 'editor' as const, 'viewer' as const, 'nobody' as const),
  })
}

/** What Node lets through in an address, bad escapes left as they are. */
const pathSafe = (value: string): string =>
  value.replace(/[^\x21-\x7e]|[#?]/gu, (char) => (char === '\ud800' ? '%ED%A0%80' : encodeURIComponent(char)))

describe('every route, asked in any way', () => {
  let app: RunningApp
  const agent = new Agent({ keepAlive: true, maxSockets: AT_ONCE })
  let cookies: Readonly<Record<string, string>>
  beforeAll(async () => {
    app = await startApp({ bare: true })
    cookies = await cookiesByRole(app)
  }, 240_000)
  afterAll(async () => {
    agent.destroy()
    await app?.stop()
  })

  const send = (sent: Sent): Promise<{ status: number; text: string; type: string }> =>
    new Promise((resolve, reject) => {
      const headers: Record<string, string> = {}
      if (cookies[sent.who]) headers['cookie'] = cookies[sent.who]!
      if (sent.type) headers['content-type'] = sent.type
      if (sent.body) headers['content-length'] = String(sent.body.length)
      const path = sent.path + (sent.query ? `?${sent.query}` : '')
      const request = httpRequest(`${app.origin}`, { agent, method: sent.method, path, headers }, (response) => {
        const parts: Buffer[] = []
        response.on('data', (part: Buffer) => parts.push(part))
        response.on('end', () =>
          resolve({
            status: response.statusCode ?? 0,
            text: Buffer.concat(parts).toString('utf8'),
            type: response.headers['content-type'] ?? '',
          }),
        )
      })
      request.on('error', reject)
      request.end(sent.body ?? undefined)
    })

  it(`answers ${REQUESTS} requests without failing, and shows nothing of its inside`, { timeout: 3_600_000 }, async () => {
    const statuses = new Map<number, number>()
    const wrong: unknown[] = []
    const perRoute = Math.ceil(REQUESTS / FUZZED.length)
    const all = FUZZED.flatMap((route) => fc.sample(mutated(route), { numRuns: perRoute, seed: perRoute })).slice(0, REQUESTS)
    const look = async (sent: Sent): Promise<void> => {
      const { status, text, type } = await send(sent)
      statuses.set(status, (statuses.get(status) ?? 0) + 1)
      const isProblem = status < 400 || sent.method === 'HEAD' || type.includes('problem+json')
      const shows = /node_modules|\bat \S+ \(|SQLITE|\.mjs:\d|ECONN|ENOENT/.test(text)
      if (status >= 500 && status !== 502)
        wrong.push([status, sent.who, sent.method, sent.path, sent.query, String(sent.body).slice(0, 200), text.slice(0, 300)])
      else if (shows || !isProblem) wrong.push([status, sent.method, sent.path, text.slice(0, 300)])
    }
    const next = async (): Promise<void> => {
      for (let sent = all.pop(); sent; sent = all.pop()) await look(sent)
    }
    await Promise.all(Array.from({ length: AT_ONCE }, next))
    process.stdout.write(
      `${REQUESTS} requests: ${[...statuses]
        .sort(([a], [b]) => a - b)
        .map(([status, n]) => `${n} × ${status}`)
        .join(', ')}\n`,
    )
    expect(wrong.slice(0, 5)).toEqual([])
    // it goes on as before
    expect((await fetch(`${app.origin}/api/me`, { headers: { cookie: cookies['owner']! } })).status).toBe(200)
  })
})
