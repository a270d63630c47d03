import { readdirSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { keyFor, startApp, type RunningApp } from './app'

type Role = 'owner' | 'editor' | 'viewer'

interface Route {
  readonly method: 'GET' | 'POST' | 'PUT' | 'DELETE'
  readonly path: string
  /** The least role; null for routes that anybody may call. */
  readonly role: Role | null
  /** A request that is right in form; its answer may still be a refusal for what it asks. */
  readonly query?: string
  readonly body?: unknown
  readonly answers: readonly number[]
  /** Requests that are not right in form. */
  readonly bad?: readonly ({ readonly body: unknown } | { readonly query: string })[]
}

const S = '/api/servers/lantern-row'
const file = encodeURIComponent('extras/Wardkeys/settings.yml')

/** Every route there is; the first test sees to it that none is forgotten. */
const ROUTES: readonly Route[] = [
  { method: 'GET', path: '/api/me', role: 'viewer', answers: [200] },
  {
    method: 'PUT',
    path: '/api/me/password',
    role: 'viewer',
    body: { current: '', password: 'reed and clay at high tide' },
    answers: [200],
    bad: [{ body: {} }, { body: { password: 'short' } }, { body: { password: 'long enough a one', more: 1 } }],
  },
  { method: 'GET', path: '/api/people', role: 'owner', answers: [200] },
  {
    method: 'POST',
    path: '/api/people/invitations',
    role: 'owner',
    body: { role: 'viewer' },
    answers: [200],
    bad: [{ body: {} }, { body: { role: 'king' } }],
  },
  { method: 'DELETE', path: '/api/people/invitations/999', role: 'owner', answers: [404] },
  { method: 'PUT', path: '/api/people/nobody', role: 'owner', body: { role: 'editor' }, answers: [404], bad: [{ body: { role: 'king' } }] },
  { method: 'DELETE', path: '/api/people/nobody', role: 'owner', answers: [404] },
  { method: 'POST', path: '/api/people/nobody/sign-out', role: 'owner', answers: [404] },
  { method: 'POST', path: '/api/people/nobody/link', role: 'owner', answers: [404] },
  {
    method: 'POST',
    path: '/api/invitations/look',
    role: null,
    body: { key: 'none' },
    answers: [410],
    bad: [{ body: {} }, { body: { key: 5 } }],
  },
  {
    method: 'POST',
    path: '/api/invitations/accept',
    role: null,
    body: { key: 'none', name: 'wenna', password: 'reed and clay at high tide' },
    answers: [410],
    bad: [{ body: { key: 'none', name: 'wenna', password: 'short' } }, { body: { key: 'none' } }],
  },
  { method: 'GET', path: '/api/storage', role: 'owner', answers: [200] },
  { method: 'POST', path: '/api/storage/clear', role: 'owner', answers: [200] },
  { method: 'GET', path: '/api/servers', role: 'viewer', answers: [200] },
  {
    method: 'POST',
    path: '/api/servers',
    role: 'owner',
    body: { slug: 'other', folder: '/no/such/folder', familyId: 'archive', command: ['true'] },
    answers: [409],
    bad: [
      { body: {} },
      { body: { slug: 'No Name', folder: '/x', familyId: 'archive', command: ['x'] } },
      { body: { slug: 'other', folder: '/x', familyId: 'archive', command: [] } },
      { body: { slug: 'other', folder: '/x', familyId: 'archive', command: 'a string' } },
    ],
  },
  {
    method: 'POST',
    path: '/api/servers/survey',
    role: 'owner',
    body: { folder: '/no/such/folder' },
    answers: [400],
    bad: [{ body: {} }, { body: { folder: 5 } }],
  },
  {
    method: 'POST',
    path: '/api/servers/tries',
    role: 'owner',
    body: { folder: '/no/such/folder', familyId: 'archive', command: ['true'] },
    answers: [400],
    bad: [{ body: {} }, { body: { folder: '/x', familyId: 'archive', command: [] } }],
  },
  { method: 'GET', path: '/api/servers/tries/999', role: 'owner', answers: [404] },
  { method: 'DELETE', path: '/api/servers/tries/999', role: 'owner', answers: [404] },
  { method: 'GET', path: '/api/sign-in', role: null, answers: [200] },
  {
    method: 'POST',
    path: '/api/sign-in',
    role: null,
    body: { key: 'nobody.x' },
    answers: [401],
    bad: [{ body: {} }, { body: { key: 5 } }, { body: { name: 'maren' } }, { body: { key: 'x', name: 'maren', password: 'y' } }],
  },
  { method: 'DELETE', path: S, role: 'owner', answers: [200, 409] },
  { method: 'GET', path: `${S}/command`, role: 'owner', answers: [200] },
  {
    method: 'PUT',
    path: `${S}/command`,
    role: 'owner',
    body: { command: ['true'] },
    answers: [200, 409],
    bad: [{ body: {} }, { body: { command: [] } }, { body: { command: 'true' } }],
  },
  {
    method: 'POST',
    path: `${S}/console`,
    role: 'editor',
    body: { line: 'plugins' },
    answers: [200, 409],
    bad: [{ body: {} }, { body: { line: 5 } }, { body: { line: 'x'.repeat(2001) } }],
  },
  {
    method: 'POST',
    path: `${S}/control`,
    role: 'editor',
    body: { action: 'start' },
    answers: [200, 409],
    bad: [{ body: { action: 'explode' } }],
  },
  {
    method: 'PUT',
    path: `${S}/draft`,
    role: 'editor',
    body: { path: 'none.yml', text: '', baseSha: 'x', draftSha: null },
    answers: [404],
    bad: [
      { body: { path: 'none.yml' } },
      { body: { path: 'a', text: 'b', baseSha: 'c' } },
      { body: { path: 1, text: 2, baseSha: 3, draftSha: 4 } },
    ],
  },
  { method: 'GET', path: `${S}/events`, role: 'viewer', answers: [200] },
  { method: 'GET', path: `${S}/file`, role: 'viewer', query: `path=${file}`, answers: [200, 404], bad: [{ query: '' }] },
  { method: 'GET', path: `${S}/files`, role: 'viewer', answers: [200] },
  { method: 'GET', path: `${S}/findings`, role: 'viewer', answers: [200] },
  { method: 'GET', path: `${S}/history`, role: 'viewer', answers: [200] },
  { method: 'GET', path: `${S}/history/999`, role: 'viewer', answers: [404] },
  { method: 'POST', path: `${S}/history/999/undo`, role: 'editor', answers: [404] },
  {
    method: 'PUT',
    path: `${S}/history/999/pin`,
    role: 'editor',
    body: { pinned: true },
    answers: [404],
    bad: [{ body: {} }, { body: { pinned: 'yes' } }],
  },
  {
    method: 'POST',
    path: `${S}/installs`,
    role: 'editor',
    body: { packageId: 999 },
    answers: [404],
    bad: [{ body: {} }, { body: { packageId: '1' } }, { body: { packageId: 1.5 } }],
  },
  {
    method: 'GET',
    path: `${S}/installs/plan`,
    role: 'viewer',
    query: 'package=999',
    answers: [404],
    bad: [{ query: '' }, { query: 'package=abc' }],
  },
  { method: 'GET', path: `${S}/overview`, role: 'viewer', answers: [200] },
  { method: 'GET', path: `${S}/pantry`, role: 'viewer', answers: [200] },
  {
    method: 'POST',
    path: `${S}/pantry/link`,
    role: 'editor',
    body: { link: 'http://127.0.0.1:1/x.pack' },
    answers: [400],
    bad: [{ body: {} }],
  },
  { method: 'DELETE', path: `${S}/pantry/999`, role: 'editor', answers: [404] },
  { method: 'POST', path: `${S}/pantry/upload`, role: 'editor', query: 'name=x.pack', answers: [400, 422], bad: [{ query: '' }] },
  { method: 'POST', path: `${S}/refresh`, role: 'editor', answers: [200] },
  { method: 'GET', path: `${S}/tray`, role: 'viewer', answers: [200] },
  { method: 'DELETE', path: `${S}/tray`, role: 'editor', answers: [200] },
  {
    method: 'POST',
    path: `${S}/tray/apply`,
    role: 'editor',
    body: { drafts: [] },
    answers: [409],
    bad: [{ body: {} }, { body: { drafts: 'all' } }, { body: { drafts: [{ path: 'x' }] } }, { body: { drafts: [], all: true } }],
  },
  {
    method: 'POST',
    path: `${S}/tray/rebase`,
    role: 'editor',
    body: { path: 'none.yml' },
    answers: [404],
    bad: [{ body: {} }, { body: { path: 'x', choice: 'theirs' } }],
  },
  { method: 'GET', path: `${S}/tray/text`, role: 'viewer', query: `path=${file}`, answers: [404], bad: [{ query: '' }] },
  {
    method: 'POST',
    path: `${S}/updates/Wardkeys/apply`,
    role: 'editor',
    body: { packageId: 999, planSha: 'x' },
    answers: [404],
    bad: [{ body: {} }, { body: { packageId: 999 } }],
  },
  {
    method: 'PUT',
    path: `${S}/updates/Wardkeys/choice`,
    role: 'editor',
    body: { packageId: 999, path: 'x', decision: 'y', choice: null },
    answers: [404],
    bad: [{ body: { packageId: 1, path: 'x', decision: 'y', choice: { id: 'burn' } } }],
  },
  { method: 'GET', path: `${S}/updates/Wardkeys/plan`, role: 'viewer', query: 'package=999', answers: [404], bad: [{ query: '' }] },
  // the last, since it ends the session it comes with
  { method: 'POST', path: '/api/sign-out', role: 'viewer', body: {}, answers: [200], bad: [{ body: { everywhere: 'yes' } }] },
]
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
  const cookies = new Map<Role, string>()
  const signIn = async (name: string): Promise<string> => {
    const body = JSON.stringify({ key: keyFor(app, name) })
    const answer = await fetch(`${app.origin}/api/sign-in`, { method: 'POST', body, headers: { 'content-type': 'application/json' } })
    return answer.headers.get('set-cookie')!.split(';')[0]!
  }
  beforeAll(async () => {
    app = await startApp({ bare: true })
    for (const [role, name] of [
      ['owner', 'maren'],
      ['editor', 'tobiah'],
      ['viewer', 'isolde'],
    ] as const)
      cookies.set(role, await signIn(name))
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
    const signed = cookie ?? (role ? cookies.get(role) : undefined)
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
      path.replace('lantern-row', '[slug]').replace('/999', '/[id]').replace('/Wardkeys', '/[plugin]').replace('/nobody', '/[name]')
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

  it.each(named)('%s answers those who may', async (_name, route) => {
    const role = route.role ?? 'viewer'
    const cookie = route.path === '/api/sign-out' ? await signIn('isolde') : cookies.get(role)!
    const { status, answer } = await send(route, { cookie })
    expect(route.answers).toContain(status)
    if (status >= 400) isProblem(answer)
    if (route.path === '/api/sign-out') expect((await send(ROUTES[0]!, { cookie })).status).toBe(401)
  })
})
