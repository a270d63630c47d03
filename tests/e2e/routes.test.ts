import { readdirSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { cookieFor, cookiesByRole, startApp, type RunningApp } from './app'
import { ROUTES, S, type Role, type Route } from './route-table'

const ORDER: readonly Role[] = ['viewer', 'editor', 'owner']

/** The routes as files say they are. */
function routeFiles(folder = 'server/api', at = '/api'): string[] {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    if (entry.isDirectory()) return routeFiles(join(folder, entry.name), `${at}/${entry.name}`)
    const [, name, method] = /^(.+)\.(get|post|put|delete)\.ts$/.exec(entry.name)!
    return [`${method!.toUpperCase()} ${name === 'index' ? at : `${at}/${name}`}`]
  })
}

describe('every route over HTTP', () => {
  let app: RunningApp
  let cookies: Awaited<ReturnType<typeof cookiesByRole>>
  beforeAll(async () => {
    app = await startApp({ bare: true })
    cookies = await cookiesByRole(app)
  }, 240_000)
  afterAll(() => app?.stop())

  interface Sent {
    readonly role?: Role | null
    readonly query?: string
    readonly body?: unknown
    readonly origin?: string
    readonly cookie?: string
  }
  /** Sends a request, and gives status and answer; streams are let go of at once. */
  async function send(
    route: Route,
    { role = null, query = route.query, body = route.body, origin, cookie }: Sent,
  ): Promise<{ status: number; answer: Record<string, unknown> }> {
    const signed = cookie ?? (role ? cookies[role] : undefined)
    const stop = new AbortController()
    const response = await fetch(`${app.origin}${route.path}${query ? `?${query}` : ''}`, {
      method: route.method,
      signal: stop.signal,
      headers: {
        ...(signed ? { cookie: signed } : {}),
        ...(origin ? { origin } : {}),
        ...(body !== undefined ? { 'content-type': 'application/json' } : {}),
      },
      ...(body !== undefined ? { body: JSON.stringify(body) } : {}),
    })
    const isJson = response.headers.get('content-type')?.includes('json') ?? false
    const answer = isJson ? ((await response.json()) as Record<string, unknown>) : {}
    stop.abort()
    return { status: response.status, answer }
  }
  const isProblem = (answer: Record<string, unknown>): void => {
    expect(answer).toMatchObject({ code: expect.stringMatching(/^[a-z0-9-]+$/) as unknown, title: expect.stringMatching(/\.$/) as unknown })
    expect(JSON.stringify(answer)).not.toMatch(/node_modules|at \w+ \(|SQLITE/)
  }

  it('is in the list', () => {
    const pattern = (path: string): string =>
      path
        .replace('lantern-row', '[slug]')
        .replace('/999', '/[id]')
        .replace(/\/(Wardkeys|Nobody)(?=\/)/, '/[plugin]')
        .replace('/nobody', '/[name]')
    expect(routeFiles().sort()).toEqual(ROUTES.map((route) => `${route.method} ${pattern(route.path)}`).sort())
  })

  const named = ROUTES.map((route) => [`${route.method} ${route.path}`, route] as const)

  it.each(named.filter(([, route]) => route.role))('%s takes nobody who is not signed in', async (_name, route) => {
    for (const cookie of [undefined, 'pasticcio_session=forged']) {
      const { status, answer } = await send(route, cookie ? { cookie } : {})
      expect(status).toBe(401)
      isProblem(answer)
    }
  })

  it.each(named.filter(([, route]) => route.role && route.role !== 'viewer'))('%s takes no lesser role', async (_name, route) => {
    for (const role of ORDER.slice(0, ORDER.indexOf(route.role!))) {
      const { status, answer } = await send(route, { role })
      expect(status).toBe(403)
      isProblem(answer)
    }
  })

  it.each(named.filter(([, route]) => route.method !== 'GET'))('%s takes no request from another site', async (_name, route) => {
    for (const origin of ['https://elsewhere.example', 'null', 'not a url'])
      expect(await send(route, { role: 'owner', origin })).toMatchObject({ status: 403, answer: { code: 'not-allowed' } })
  })

  it.each(named.filter(([, route]) => route.bad))('%s says what is wrong with a bad request', async (_name, route) => {
    for (const bad of route.bad!) {
      const { status, answer } = await send(route, { role: 'owner', ...bad })
      expect(status, JSON.stringify(bad)).toBe(400)
      isProblem(answer)
    }
  })

  it.each(named.filter(([, route]) => route.path.startsWith(S)))('%s knows no server that is not there', async (_name, route) => {
    const { status, answer } = await send({ ...route, path: route.path.replace('lantern-row', 'no-such-row') }, { role: 'owner' })
    expect(status).toBe(404)
    isProblem(answer)
  })

  it.each([...new Set(ROUTES.map(({ path }) => path))])('%s takes the methods it has, and says which', async (path) => {
    // a name may be any word, also one that is an address of its own
    const parts = path.split('/')
    const fits = (route: Route): boolean =>
      route.path.split('/').length === parts.length &&
      route.path.split('/').every((part, i) => part === parts[i] || ['lantern-row', '999', 'Wardkeys', 'nobody'].includes(part))
    const known = [...new Set(ROUTES.filter(fits).map(({ method }) => method as string))]
    for (const method of ['GET', 'POST', 'PUT', 'DELETE', 'PATCH', 'OPTIONS'].filter((one) => !known.includes(one))) {
      const response = await fetch(app.origin + path, { method, headers: { cookie: cookies.owner } })
      expect([response.status, response.headers.get('allow')], method).toEqual([405, known.sort().join(', ')])
      expect(await response.json()).toMatchObject({ code: 'wrong-method' })
    }
  })

  it('an address that is not there is told as such, with any method', async () => {
    for (const method of ['GET', 'POST', 'DELETE'])
      for (const path of ['/api/none', '/api/', `${S}/none`, '/api/servers/%zz/overview', '/api/%00']) {
        const response = await fetch(app.origin + path, { method })
        expect([404, 405, 401, 400], path).toContain(response.status)
        isProblem((await response.json()) as Record<string, unknown>)
      }
  })

  it('answers carry a number that the log is searched by', async () => {
    const response = await fetch(`${app.origin}/api/me`)
    expect(response.headers.get('x-request-id')).toMatch(/^[0-9a-f]{8}$/)
  })

  it.each(named)('%s answers those who may', async (_name, route) => {
    const role = route.role ?? 'viewer'
    const cookie = route.path === '/api/sign-out' ? await cookieFor(app, 'isolde') : cookies[role]
    const { status, answer } = await send(route, { cookie })
    expect(route.answers).toContain(status)
    if (status >= 400) isProblem(answer)
    if (route.path === '/api/sign-out') expect((await send(ROUTES[0]!, { cookie })).status).toBe(401)
  })
})
