// npm test: installs and builds what is missing, then lint, types, unit tests and the tests in the browser.
import { execFileSync, spawnSync } from 'node:child_process'
import { existsSync } from 'node:fs'
import { buildApp, buildPackages, checkNode, fail, install, root, run } from './prepare.mjs'

checkNode()
install()
buildPackages()
requireChromium()
step('lint', ['npx', '--no-install', 'eslint', '.'])
step('format', ['npx', '--no-install', 'prettier', '--check', '--log-level', 'warn', '.'])
step('types', [process.execPath, 'scripts/typecheck.mjs'])
const projects = ['core', 'cli', 'standin', 'server', 'app'].flatMap((name) => ['--project', name])
step('unit', ['npx', '--no-install', 'vitest', 'run', '--coverage', ...projects])
buildApp()
step('e2e', ['npx', '--no-install', 'vitest', 'run', '--project', 'e2e'])

function step(name, [command, ...args]) {
  process.stdout.write(`\n— ${name}\n`)
  const result = spawnSync(command, args, { cwd: root, stdio: 'inherit' })
  if (result.status !== 0) fail(`\n${name} failed.`)
}

/** Debian's Chromium, through apt where we may; else words how to get it. */
function requireChromium() {
  if (['/usr/bin/chromium', '/usr/bin/chromium-browser', '/usr/bin/google-chrome'].some((path) => existsSync(path))) return
  const isRoot = process.getuid?.() === 0
  const hasApt = existsSync('/usr/bin/apt-get')
  if (!isRoot || !hasApt) fail('The tests need Chromium. On Debian: sudo apt-get install chromium. Then run "npm test" again.')
  process.stdout.write('Installing Chromium for the tests …\n')
  run('apt-get', ['-qq', 'update'])
  execFileSync('apt-get', ['-qq', '-y', 'install', 'chromium'], {
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
  })
}
