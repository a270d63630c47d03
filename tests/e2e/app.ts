import { execFileSync, spawn, type ChildProcess } from 'node:child_process'
import { createHmac, randomInt } from 'node:crypto'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

const root = join(dirname(fileURLToPath(import.meta.url)), '../..')

export interface RunningApp {
  /** The link that signs the owner in. */
  readonly link: string
  readonly origin: string
  /** The demo world: the game server's own files are below `servers/`. */
  readonly folder: string
  stop(): Promise<void>
}

export interface StartOptions {
  /** An installation of one's own, without the demo: its data folder is empty, and its link creates the owner. */
  readonly own?: boolean
  /** The demo's server as it came, with one plugin and nothing done to it yet. */
  readonly bare?: boolean
}

/** Starts the whole product on a world of its own, by the same script as `npm start`. */
export async function startApp({ own = false, bare = false }: StartOptions = {}): Promise<RunningApp> {
  const folder = mkdtempSync(join(tmpdir(), 'pasticcio-e2e-'))
  if (bare) makeBareWorld(folder)
  const port = await freePort()
  const child = spawn(process.execPath, [join(root, 'scripts/start.mjs')], {
    cwd: root,
    stdio: 'pipe',
    env: {
      ...process.env,
      PORT: String(port),
      HOST: '127.0.0.1',
      PASTICCIO_DATA: join(folder, 'data'),
      ...(own ? {} : { PASTICCIO_DEMO: folder }),
    },
  })
  const link = await linkOf(child)
  return {
    link,
    origin: `http://127.0.0.1:${port}`,
    folder,
    async stop() {
      const ended = new Promise<void>((resolve) => child.once('exit', () => resolve()))
      child.kill('SIGTERM')
      await ended
      rmSync(folder, { recursive: true, force: true })
    },
  }
}

/** The part of a demo link that signs somebody in, as `npm start` makes it. */
export function keyFor(app: RunningApp, name: string): string {
  const secret = readFileSync(join(app.folder, 'data/secret'), 'utf8')
  return demoKey(secret, name)
}

const demoKey = (secret: string, name: string): string =>
  `${name}.${createHmac('sha256', secret).update(`sign-in ${name}`).digest('base64url')}`

/** Signs somebody of the demo in. @returns the cookie */
export async function cookieFor(app: RunningApp, name: string): Promise<string> {
  const body = JSON.stringify({ key: keyFor(app, name) })
  const answer = await fetch(`${app.origin}/api/sign-in`, { method: 'POST', body, headers: { 'content-type': 'application/json' } })
  return answer.headers.get('set-cookie')!.split(';')[0]!
}

/** Asks the API as somebody who is signed in. @throws Error with the words of a refusal */
export async function ask<T = unknown>(app: RunningApp, cookie: string, method: string, path: string, body?: unknown): Promise<T> {
  const headers = { cookie, 'content-type': 'application/json' }
  const answer = await fetch(app.origin + path, { method, headers, ...(body ? { body: JSON.stringify(body) } : {}) })
  const data = (await answer.json()) as T & { title?: string }
  if (answer.status >= 400) throw new Error(data.title)
  return data
}

/** The text of a settings file as its draft has it, else as it stands on the server. */
export async function textOf(app: RunningApp, cookie: string, path: string, server = 'lantern-row'): Promise<string> {
  const query = encodeURIComponent(path)
  type ShownFile = { readonly text: string; readonly draft: { readonly text: string } | null }
  const file = await ask<ShownFile>(app, cookie, 'GET', `/api/servers/${server}/file?path=${query}`)
  return file.draft?.text ?? file.text
}

/** The cookies of the demo's people, by their roles. */
export async function cookiesByRole(app: RunningApp): Promise<Readonly<Record<'owner' | 'editor' | 'viewer', string>>> {
  const [owner, editor, viewer] = await Promise.all(['maren', 'tobiah', 'isolde'].map((name) => cookieFor(app, name)))
  return { owner: owner!, editor: editor!, viewer: viewer! }
}

export function linkFor(app: RunningApp, name: string): string {
  return `${app.origin}/sign-in?key=${encodeURIComponent(keyFor(app, name))}`
}

export function makeBareWorld(folder: string): void {
  execFileSync(process.execPath, [join(root, 'packages/standin/dist/demo.mjs'), folder, 'bare'])
  writeFileSync(join(folder, 'lived-in'), '')
}

function linkOf(child: ChildProcess): Promise<string> {
  return new Promise((resolve, reject) => {
    let said = ''
    const hear = (data: Buffer): void => {
      said += data.toString()
      const link = /http:\S+(?:sign-in|join)\S+/.exec(said)?.[0]
      if (link && said.includes('Pasticcio is running')) resolve(link)
    }
    child.stdout?.on('data', hear)
    child.stderr?.on('data', hear)
    child.once('exit', (code) => reject(new Error(`the app ended with code ${code}:\n${said}`)))
  })
}

/** A port nobody listens on, below those that a system gives to whoever asks for any: nobody else is given it meanwhile. */
export async function freePort(): Promise<number> {
  for (;;) {
    const port = randomInt(20_000, 32_000)
    if (await isFree(port)) return port
  }
}

function isFree(port: number): Promise<boolean> {
  return new Promise((resolve) => {
    const probe = createServer()
    probe.once('error', () => resolve(false))
    probe.listen(port, '127.0.0.1', () => probe.close(() => resolve(true)))
  })
}

/** Builds what the application is run from, where that is not of now. */
export function buildApp(): void {
  execFileSync(process.execPath, ['-e', "import('./scripts/prepare.mjs').then((all) => (all.buildPackages(), all.buildApp()))"], {
    cwd: root,
  })
}

/** The application itself, without the script that starts it: for what has to be killed, watched, or set up otherwise. */
export interface BareApp {
  readonly child: ChildProcess
  readonly origin: string
  /** Asks for JSON, signed in as the owner of the demo’s kind. */
  call(path: string, method?: string, body?: unknown): Promise<{ status: number; data: unknown }>
  cookie(): string
}

/** Starts it on a folder, with a server where `PASTICCIO_SERVER` is given. */
export async function startBare(folder: string, port: number, env: Record<string, string> = {}, cookie = ''): Promise<BareApp> {
  const child = spawn(process.execPath, ['.output/server/index.mjs'], {
    cwd: root,
    stdio: 'ignore',
    env: {
      PATH: process.env['PATH'],
      NITRO_HOST: '127.0.0.1',
      NITRO_PORT: String(port),
      PASTICCIO_DATA: join(folder, 'data'),
      PASTICCIO_SECRET: BARE_SECRET,
      PASTICCIO_ACCOUNTS: 'maren:owner',
      ...env,
    },
  })
  const origin = `http://127.0.0.1:${port}`
  const call = async (path: string, method = 'GET', body?: unknown): Promise<{ status: number; data: unknown }> => {
    const response = await fetch(origin + path, {
      method,
      headers: { cookie, ...(body ? { 'content-type': 'application/json' } : {}) },
      ...(body ? { body: JSON.stringify(body) } : {}),
    })
    cookie ||= response.headers.getSetCookie()[0]?.split(';')[0] ?? ''
    return { status: response.status, data: await response.json() }
  }
  await until(async () => (await fetch(`${origin}/api/me`)).status > 0)
  if (!cookie) await call('/api/sign-in', 'POST', { key: demoKey(BARE_SECRET, 'maren') })
  return { child, origin, call, cookie: () => cookie }
}

export const BARE_SECRET = 'a secret of sixteen'

/** Asks again and again until there is an answer. */
export async function until<T>(work: () => Promise<T | null | false | undefined>): Promise<T> {
  for (;;) {
    const got = await work().catch(() => null)
    if (got) return got
    await new Promise((resolve) => setTimeout(resolve, 25))
  }
}

/** Kills a process, and waits until it is gone. */
export async function killed(child: ChildProcess): Promise<void> {
  if (child.exitCode !== null || child.signalCode !== null) return
  const gone = new Promise((resolve) => child.once('exit', resolve))
  child.kill('SIGKILL')
  await gone
}
