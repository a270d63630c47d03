// Thirty readers at three servers of eight plugins, and two people who edit and apply meanwhile, over HTTP on loopback:
// how long answers take, whether an edit is lost, and whether memory grows. "npm run bench:load [seconds]".
import { execFileSync, spawn } from 'node:child_process'
import { cpSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import autocannon from 'autocannon'
import { person } from '../scripts/demo-life.mjs'
import { buildApp, buildPackages, root } from '../scripts/prepare.mjs'

const READERS = 30
const seconds = Number(process.argv[2] ?? 20)
const SECRET = 'a secret of sixteen'
const PORT = 3977
const origin = `http://127.0.0.1:${PORT}`
const folder = mkdtempSync(join(tmpdir(), 'pasticcio-load-'))
const say = (line) => process.stdout.write(`${line}\n`)

buildPackages()
buildApp()
execFileSync(process.execPath, [join(root, 'packages/standin/dist/demo.mjs'), folder])
const homes = ['lantern-row', 'second-row', 'third-row'].map((slug) => [slug, join(folder, 'servers', slug)])
for (const [, home] of homes.slice(1)) cpSync(homes[0][1], home, { recursive: true })
const command = [process.execPath, join(root, 'packages/standin/dist/server.mjs')]
const app = spawn(process.execPath, [join(root, '.output/server/index.mjs')], {
  stdio: ['ignore', 'ignore', 'inherit'],
  env: {
    PATH: process.env.PATH,
    NITRO_HOST: '127.0.0.1',
    NITRO_PORT: String(PORT),
    NODE_ENV: 'production',
    PASTICCIO_DATA: join(folder, 'data'),
    PASTICCIO_SECRET: SECRET,
    PASTICCIO_COMMANDS: 'any',
    PASTICCIO_ACCOUNTS: 'maren:owner,tobiah:editor,isolde:viewer',
    PASTICCIO_SERVER: JSON.stringify({ slug: homes[0][0], familyId: 'archive', folder: homes[0][1], command, start: true }),
  },
})
process.on('exit', () => {
  app.kill('SIGKILL')
  rmSync(folder, { recursive: true, force: true })
})

const until = async (holds) => {
  while (!(await holds().catch(() => false))) await pause(50)
}
await until(async () => (await fetch(`${origin}/api/me`)).status === 401)
const [maren, tobiah, isolde] = await Promise.all(['maren', 'tobiah', 'isolde'].map((name) => person(origin, SECRET, name)))
for (const [slug, home] of homes.slice(1))
  await maren.call('POST', '/api/servers', { slug, folder: home, familyId: 'archive', command, tried: null, untried: true })
for (const [slug] of homes.slice(1)) await maren.call('POST', `/api/servers/${slug}/control`, { action: 'start' })
await until(async () => (await maren.call('GET', '/api/servers')).data.every(({ status }) => status === 'running'))

const paths = (path) => homes.map(([slug]) => ({ method: 'GET', path: `/api/servers/${slug}/${path}`, headers: { cookie: isolde.cookie } }))
const FILE = 'file?path=extras%2FPurse%2Fsettings.yml'
/** Reads for a while; the times of all answers are kept, since the library has no 95th percentile. */
async function read(requests, duration) {
  const times = []
  const running = autocannon({ url: origin, connections: READERS, duration, requests })
  running.on('response', (_client, _status, _bytes, time) => times.push(time))
  return { ...(await running), times: times.sort((a, b) => a - b) }
}
const told = (name, { times, requests, non2xx, errors, timeouts }) => {
  const at = (share) => `${times[Math.floor(share * (times.length - 1))].toFixed(1)} ms`
  say(
    `${name.padEnd(30)} p50 ${at(0.5)}, p95 ${at(0.95)}, p99 ${at(0.99)}, ${Math.round(requests.average)}/s, ${non2xx + errors + timeouts} failed`,
  )
}

/** Somebody who changes one number again and again, and applies it; of the same file as somebody else. */
async function edits(who, slug, key, isOver) {
  const base = `/api/servers/${slug}`
  const path = 'extras/Purse/settings.yml'
  let [wanted, applied, conflicts] = [0, 0, 0]
  while (!isOver()) {
    const { data: view } = await who.call('GET', `${base}/file?path=${encodeURIComponent(path)}`)
    const text = (view.draft?.text ?? view.text).replace(new RegExp(`^(# ${key}: )\\d+$|$(?![^])`, 'm'), (_all, mark) =>
      mark ? `${mark}${wanted + 1}` : `# ${key}: ${wanted + 1}\n`,
    )
    const saved = await who.call('PUT', `${base}/draft`, {
      path,
      text,
      baseSha: view.draft?.baseSha ?? view.sha,
      draftSha: view.draft?.sha ?? null,
    })
    if (saved.status !== 200) conflicts++
    else {
      wanted++
      const { data: tray } = await who.call('GET', `${base}/tray`)
      const drafts = tray.map(({ path: staged, sha }) => ({ path: staged, sha }))
      if ((await who.call('POST', `${base}/tray/apply`, { drafts })).status === 200) applied++
    }
    await pause(150)
  }
  return { wanted, applied, conflicts }
}

const memory = () => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${app.pid}/status`, 'utf8'))[1]) / 1024
say(`${READERS} readers, 3 servers of 8 plugins, Node ${process.versions.node}`)
await read(paths('overview'), 3)
told('overview', await read(paths('overview'), Math.min(seconds, 20)))
told('one settings file', await read(paths(FILE), Math.min(seconds, 20)))
told('console and history', await read(paths('history'), Math.min(seconds, 10)))

let isOver = false
const samples = []
const sampling = setInterval(() => samples.push(memory()), 1000)
const working = Promise.all([edits(tobiah, homes[0][0], 'tobiah', () => isOver), edits(maren, homes[0][0], 'maren', () => isOver)])
told('all of it, two people at work', await read([...paths('overview'), ...paths(FILE), ...paths('tray')], seconds))
isOver = true
const done = await working
clearInterval(sampling)

const { data: tray } = await maren.call('GET', `/api/servers/${homes[0][0]}/tray`)
if (tray.length > 0) {
  const drafts = tray.map(({ path, sha }) => ({ path, sha }))
  const last = await maren.call('POST', `/api/servers/${homes[0][0]}/tray/apply`, { drafts })
  if (last.status !== 200) say(`the last draft could not be applied: ${last.status} ${last.data?.title}`)
}
const text = readFileSync(join(homes[0][1], 'extras/Purse/settings.yml'), 'utf8')
for (const [i, key] of ['tobiah', 'maren'].entries()) {
  const { wanted, applied, conflicts } = done[i]
  const kept = Number(new RegExp(`# ${key}: (\\d+)`).exec(text)?.[1] ?? 0)
  say(
    `${key}: ${wanted} edits kept, ${applied} applied, ${conflicts} told to choose; the file has edit ${kept}${kept === wanted ? '' : ': LOST'}`,
  )
}
const part = Math.max(1, Math.floor(samples.length / 4))
const mean = (values) => values.reduce((sum, value) => sum + value, 0) / values.length
say(
  `memory: ${mean(samples.slice(part, 2 * part)).toFixed(0)} MB in the second quarter, ${mean(samples.slice(-part)).toFixed(0)} MB in the last`,
)
await Promise.race([new Promise((resolve) => (app.once('exit', resolve), app.kill('SIGTERM'))), pause(30_000)])
process.exit(0)
