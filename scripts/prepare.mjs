// What both "npm start" and "npm test" need: the locked packages, and what is built from the sources as they are now.
// Each step leaves a stamp and is skipped while nothing it depends on has changed. Node's own modules only: this runs
// before anything is installed.
import { execFileSync, spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, readdirSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

export const root = join(dirname(fileURLToPath(import.meta.url)), '..')
const stamps = join(root, 'node_modules', '.pasticcio')

export function fail(message) {
  process.stderr.write(`${message}\n`)
  process.exit(1)
}

/** Runs a command in the checkout; its output is shown only when it fails, or always with `show`. */
export function run(command, args, { show = false, env = {} } = {}) {
  const result = spawnSync(command, args, {
    cwd: root,
    stdio: show ? 'inherit' : 'pipe',
    encoding: 'utf8',
    env: { ...process.env, ...env },
    maxBuffer: 1 << 28,
  })
  if (result.status === 0) return
  if (!show) process.stderr.write(`${result.stdout ?? ''}${result.stderr ?? ''}`)
  fail(`"${[command, ...args].join(' ')}" failed${result.error ? `: ${result.error.message}` : ''}.`)
}

function hashOf(paths) {
  const hash = createHash('sha256')
  const visit = (path) => {
    const full = join(root, path)
    if (!existsSync(full)) return
    let names
    try {
      names = readdirSync(full, { withFileTypes: true })
    } catch {
      hash.update(path).update(readFileSync(full))
      return
    }
    for (const entry of names.sort((a, b) => (a.name < b.name ? -1 : 1)))
      if (!['node_modules', 'dist', 'tests'].includes(entry.name)) visit(join(path, entry.name))
  }
  for (const path of paths) visit(path)
  return hash.digest('hex')
}

/** Does a step unless its stamp says it was done for the same inputs. */
function once(name, inputs, present, work) {
  const stamp = join(stamps, name)
  const now = hashOf(inputs)
  if (present() && existsSync(stamp) && readFileSync(stamp, 'utf8') === now) return
  work()
  mkdirSync(stamps, { recursive: true })
  writeFileSync(stamp, now)
}

export function checkNode() {
  const [major, minor] = process.versions.node.split('.').map(Number)
  if (major < 20 || (major === 20 && minor < 19)) fail(`Pasticcio needs Node 20.19 or newer, and this is ${process.versions.node}.`)
}

export function install() {
  const manifests = [
    'package-lock.json',
    'package.json',
    'packages/core/package.json',
    'packages/cli/package.json',
    'packages/standin/package.json',
    'packages/unpack/package.json',
    'packages/check/package.json',
  ]
  once(
    'installed',
    manifests,
    () => existsSync(join(root, 'node_modules', 'nuxt')),
    () => {
      process.stdout.write('Installing the locked packages (a few minutes the first time) …\n')
      run('npm', ['ci', '--no-audit', '--no-fund'])
    },
  )
}

export function buildPackages() {
  once(
    'packages',
    ['packages', 'scripts/build-packages.mjs'],
    () =>
      existsSync(join(root, 'packages/cli/dist/pasticcio.mjs')) &&
      existsSync(join(root, 'packages/unpack/dist/thread.cjs')) &&
      existsSync(join(root, 'packages/check/dist/check-thread.cjs')),
    () => execFileSync(process.execPath, [join(root, 'scripts/build-packages.mjs')], { cwd: root, stdio: 'inherit' }),
  )
}

export function buildApp() {
  const sources = [
    'app',
    'server',
    'families',
    'public',
    'packages/core',
    'packages/unpack',
    'packages/check',
    'nuxt.config.ts',
    'package-lock.json',
  ]
  once(
    'app',
    sources,
    () => existsSync(join(root, '.output/server/index.mjs')),
    () => {
      process.stdout.write('Building the app (about half a minute) …\n')
      run('npx', ['--no-install', 'nuxt', 'build'], { env: { NUXT_TELEMETRY_DISABLED: '1' } })
    },
  )
}
