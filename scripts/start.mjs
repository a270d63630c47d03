// npm start: installs, builds, creates the demo world, starts the plugin site and the app, prints the sign-in link.
// npm start -- --own: the same without the demo, for one's own servers; a link creates the owner. A data folder that is
// given (PASTICCIO_DATA) without a folder for the demo (PASTICCIO_DEMO) means this too.
// npm start -- --own --owner-link: prints another such link, for an owner who forgot the password.
import { spawn } from 'node:child_process'
import { createHmac, randomBytes } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { createServer } from 'node:net'
import { join } from 'node:path'
import { liveIn } from './demo-life.mjs'
import { buildApp, buildPackages, checkNode, fail, install, root } from './prepare.mjs'

const host = process.env.HOST || '127.0.0.1'
const port = Number(process.env.PORT || 3000)
const isOwn = process.argv.includes('--own') || Boolean(process.env.PASTICCIO_DATA && !process.env.PASTICCIO_DEMO)
const demo = process.env.PASTICCIO_DEMO || join(root, '.demo')
const data = process.env.PASTICCIO_DATA || (isOwn ? join(root, '.data') : join(demo, 'data'))
const origin = `http://${host === '0.0.0.0' ? 'localhost' : host}:${port}`

if (process.argv.includes('--reset')) {
  const pid = existsSync(join(demo, 'running')) ? Number(readFileSync(join(demo, 'running'), 'utf8')) : 0
  if (isAlive(pid)) fail(`The demo is running (process ${pid}). Stop it first, with Ctrl+C where it was started.`)
  rmSync(demo, { recursive: true, force: true })
  process.stdout.write('The demo world is gone; "npm start" makes a new one.\n')
  process.exit(0)
}

checkNode()
if (!Number.isInteger(port) || port < 1 || port > 65535) fail(`PORT is “${process.env.PORT}”, which is no port number.`)
const letGoOfPort = await takePort()
install()
buildPackages()
buildApp()
const secret = keepSecret()
const site = isOwn ? null : await startDemo()
await letGoOfPort()
const app = spawn(process.execPath, [join(root, '.output/server/index.mjs')], {
  cwd: root,
  stdio: ['ignore', 'inherit', 'inherit'],
  env: {
    ...process.env,
    NITRO_HOST: host,
    NITRO_PORT: String(port),
    HOST: host,
    PORT: String(port),
    PASTICCIO_DATA: data,
    PASTICCIO_SECRET: secret,
    PASTICCIO_ORIGIN: process.env.PASTICCIO_ORIGIN || origin,
    // whoever starts it here for this machine alone may run commands on it anyway; for others to reach it, one says so
    PASTICCIO_COMMANDS: process.env.PASTICCIO_COMMANDS || (isLoopback(host) ? 'any' : 'none'),
    NODE_ENV: 'production',
    ...(process.argv.includes('--owner-link') ? { PASTICCIO_OWNER_LINK: 'true' } : {}),
    ...(site ? demoEnvironment(site.origin) : {}),
  },
})
app.on('exit', (code) => {
  site?.child.kill()
  process.exit(code ?? 0)
})
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => app.kill('SIGTERM'))
await answers()
if (!isOwn) await demoLife()
process.stdout.write(
  isOwn
    ? `\nPasticcio is running at ${origin}\n\n`
    : `\nPasticcio is running. This link signs you in to the demo:\n\n  ${demoLink()}\n\nFor your own server, stop it and say: npm start -- --own\n\n`,
)

function isLoopback(name) {
  return name === 'localhost' || name === '::1' || name.startsWith('127.')
}

function isAlive(pid) {
  try {
    return pid > 0 && process.kill(pid, 0)
  } catch {
    return false
  }
}

/** The demo's accounts are signed in by links that are made from the secret. */
function demoLink() {
  const key = `maren.${createHmac('sha256', secret).update('sign-in maren').digest('base64url')}`
  return `${origin}/sign-in?key=${encodeURIComponent(key)}`
}

function demoEnvironment(siteOrigin) {
  return {
    PASTICCIO_SITES: siteOrigin,
    PASTICCIO_ACCOUNTS: 'maren:owner,tobiah:editor,isolde:viewer',
    PASTICCIO_SERVER: JSON.stringify({
      slug: 'lantern-row',
      familyId: 'archive',
      folder: join(demo, 'servers/lantern-row'),
      command: [process.execPath, join(root, 'packages/standin/dist/server.mjs')],
      start: true,
    }),
  }
}

async function startDemo() {
  await demoWorld()
  writeFileSync(join(demo, 'running'), String(process.pid))
  return startSite()
}

/** Holds the port until the app takes it, so that neither the plugin site nor another program is given it meanwhile. */
function takePort() {
  return new Promise((resolve) => {
    const holder = createServer((connection) => connection.destroy())
    holder.once('error', (error) =>
      fail(
        error.code === 'EADDRINUSE'
          ? `Port ${port} is taken by another program. Stop that one, or choose another port: PORT=3001 npm start`
          : `Cannot listen on ${host}:${port}: ${error.message}`,
      ),
    )
    holder.listen(port, host, () => resolve(() => new Promise((done) => holder.close(done))))
  })
}

/** The demo is made once; `npm run demo:reset` takes it away. */
async function demoWorld() {
  if (existsSync(join(demo, 'servers/lantern-row/brackwater.yml'))) return
  mkdirSync(demo, { recursive: true })
  const { execFileSync } = await import('node:child_process')
  execFileSync(process.execPath, [join(root, 'packages/standin/dist/demo.mjs'), demo], { stdio: 'inherit' })
}

/** What the demo's people did so far is done once, when their world is new. */
async function demoLife() {
  const mark = join(demo, 'lived-in')
  if (existsSync(mark)) return
  writeFileSync(mark, '')
  const others = { servers: join(demo, 'servers'), command: [process.execPath, join(root, 'packages/standin/dist/server.mjs')] }
  // what it brings along is there only once it is installed
  const { writePast } = await import('./demo-past.mjs')
  const past = () => writePast(join(data, 'pasticcio.sqlite'), Math.floor(Date.now() / 1000))
  await liveIn(origin.replace('localhost', '127.0.0.1'), secret, { ...others, past }).catch((error) =>
    process.stderr.write(`The demo is not as lived in as it should be: ${error.message}\n`),
  )
}

/** The plugin-site stand-in, on a free port of its own. */
function startSite() {
  return new Promise((resolve) => {
    const child = spawn(process.execPath, [join(root, 'packages/standin/dist/site.mjs'), join(demo, 'site'), '0'], {
      stdio: ['ignore', 'pipe', 'inherit'],
    })
    child.stdout.once('data', (text) => resolve({ child, origin: `http://127.0.0.1:${/port (\d+)/.exec(String(text))[1]}` }))
    child.once('exit', (code) => fail(`The plugin site stopped with code ${code}.`))
    process.once('exit', () => child.kill())
  })
}

/** The secret of this installation, which sign-in links are made from, readable by its owner only. */
function keepSecret() {
  if (process.env.PASTICCIO_SECRET) return process.env.PASTICCIO_SECRET
  const file = join(data, 'secret')
  mkdirSync(data, { recursive: true, mode: 0o700 })
  if (!existsSync(file)) writeFileSync(file, randomBytes(32).toString('base64url'), { mode: 0o600 })
  return readFileSync(file, 'utf8')
}

async function answers() {
  for (let tries = 0; tries < 300; tries++) {
    try {
      await fetch(`http://${host === '0.0.0.0' ? '127.0.0.1' : host}:${port}/api/me`)
      return
    } catch {
      await new Promise((resolve) => setTimeout(resolve, 100))
    }
  }
  fail('The app did not answer within 30 seconds.')
}
