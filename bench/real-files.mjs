// Tries the command line on real settings files in several released versions: customises about 15 settings in the
// oldest, carries to the newest, and counts what became of each; then asks `git merge-file` to do the same.
// Usage: node bench/real-files.mjs FOLDER, where ../shared/real/fetch.sh put the files. They are never committed.
import { execFileSync, spawnSync } from 'node:child_process'
import { copyFileSync, mkdtempSync, readFileSync, readdirSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

const folder = process.argv[2] ?? '/tmp/pasticcio-real'
const cli = join(dirname(fileURLToPath(import.meta.url)), '../packages/cli/bin/pasticcio.mjs')
const wanted = Number(process.argv[3] ?? 15)
let seed = 20261123
const random = () => (seed = (seed * 1103515245 + 12345) % 2147483648) / 2147483648
const run = (...args) => spawnSync(process.execPath, [cli, ...args], { encoding: 'utf8' })

const rows = []
for (const name of readdirSync(folder).filter((item) => !item.startsWith('.')).sort()) {
  const versions = readdirSync(join(folder, name)).sort()
  const ending = versions[0].split('.').pop()
  if (!['yml', 'json'].includes(ending)) continue
  const [oldest, newest] = [join(folder, name, versions[0]), join(folder, name, versions.at(-1))]
  const work = mkdtempSync(join(tmpdir(), 'real-'))
  const mine = join(work, `mine.${ending}`)
  copyFileSync(oldest, mine)
  const set = customise(mine)
  const result = join(work, `result.${ending}`)
  const report = join(work, 'report.json')
  const carried = run('carry', '--factory', oldest, '--mine', mine, '--update', newest, '--out', result, '--report', report)
  if (carried.status !== 0 && carried.status !== 3) throw new Error(carried.stderr)
  const { decisions } = JSON.parse(readFileSync(report, 'utf8'))
  let kept = 0
  let named = 0
  const lost = []
  for (const [pointer, value] of set) {
    const said = decisions.filter((item) => [item.path, item.from, item.id].some((path) => path !== undefined && (pointer === path || pointer.startsWith(path + '/') || path.startsWith(pointer + '/'))))
    const there = said.some((item) => item.result !== undefined && JSON.stringify(item.result).includes(JSON.stringify(JSON.parse(value)))) || run('get', result, pointer).stdout.trim() === String(JSON.parse(value))
    if (there) kept++
    else if (said.some((item) => item.attention)) named++
    else lost.push(pointer)
  }
  const look = decisions.filter((item) => item.attention)
  const merged = spawnSync('git', ['merge-file', '-p', mine, oldest, newest], { encoding: 'utf8' })
  const conflicts = (merged.stdout.match(/^<<<<<<< /gm) ?? []).length
  rows.push({ name, versions: versions.length, set: set.length, kept, named, lost: lost.length, look: look.map((item) => `${item.path}: ${item.outcome}: ${item.reason}`), conflicts })
  rmSync(work, { recursive: true })
}

process.stdout.write('| file | customised | in the result | named for a look | lost | `git merge-file`: conflicts |\n|---|---|---|---|---|---|\n')
for (const row of rows) process.stdout.write(`| ${row.name} (oldest to newest) | ${row.set} | ${row.kept} | ${row.named} | ${row.lost} | ${row.conflicts} |\n`)
for (const row of rows) for (const item of row.look) process.stdout.write(`- ${row.name} ${item}\n`)
if (rows.some((row) => row.lost > 0)) process.exitCode = 1

/** Sets scalars spread over the file to other values of their kind, through the command line; gives pointers and values. */
function customise(file) {
  const tree = JSON.parse(execFileSync(process.execPath, [cli, 'get', file, ''], { encoding: 'utf8' }))
  const leaves = []
  const visit = (value, path) => {
    if (Array.isArray(value)) value.forEach((item, i) => visit(item, `${path}/${i}`))
    else if (value !== null && typeof value === 'object') for (const [key, item] of Object.entries(value)) visit(item, `${path}/${key.replaceAll('~', '~0').replaceAll('/', '~1')}`)
    else leaves.push([path, value])
  }
  visit(tree, '')
  const picked = leaves.map((leaf) => [random(), leaf]).sort((a, b) => a[0] - b[0]).slice(0, wanted).map(([, leaf]) => leaf)
  return picked.map(([path, value], i) => {
    const next = typeof value === 'boolean' ? !value : typeof value === 'number' ? value + 7 : `${value ?? ''}-mine${i}`
    const done = run('set', file, path, JSON.stringify(next))
    if (done.status !== 0) throw new Error(`${path}: ${done.stderr}`)
    return [path, JSON.stringify(next)]
  })
}
