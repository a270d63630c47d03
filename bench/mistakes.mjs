// How many of the mistakes of bench/mistakes/ are found, on the right line, and how many false alarms there are, on the three
// servers of the demo with every plugin of its world. `node bench/mistakes.mjs [--missed] [--only ID]`
import { cpSync, mkdtempSync, mkdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { parse as parseYaml } from 'yaml'
import { loadCore } from './core.mjs'
import { makeServers } from './mistakes/servers.mjs'

const say = (text) => process.stdout.write(`${text}\n`)
const core = await loadCore('./packages/cli/src/server-folder.ts', './packages/cli/src/commands/check-server.ts', './tests/png.ts')
const { checkWorkspace, pngOf, readFamily, readServer, rowsOf, serverInFolder } = core
const FAMILIES = { 'lantern-row': 'archive', 'night-market': 'script', 'ferry-trials': 'bundle' }
const only = process.argv.includes('--only') ? process.argv[process.argv.indexOf('--only') + 1] : null

const work = mkdtempSync(join(tmpdir(), 'pasticcio-mistakes-'))
const { site, at } = await makeServers(join(work, 'demo'))

async function check(folder, server) {
  const family = readFamily(readFileSync(`families/${FAMILIES[server]}.yml`, 'utf8'))
  const workspace = await readServer(family, await serverInFolder(folder, family, site))
  return rowsOf(checkWorkspace(workspace), (path) => workspace.files.get(path)?.document.text ?? null)
}
// what was found before is known, also where it counts one more or less of its like
const keyOf = ({ file, code, message }) => `${file} ${code} ${message.replace(/ So do(?:es)? .* others?.*$/, '')}`

/** The line a snippet stands on, from 1; of several the n-th. */
function lineIn(text, snippet, nth = 0) {
  if (snippet === '') return null
  let from = -1
  for (let i = 0; i <= nth; i++) from = text.indexOf(snippet, from + 1)
  if (from < 0) throw new Error(`no “${snippet}” (${nth})`)
  return text.slice(0, from + snippet.length).split('\n').length - (snippet.split('\n').length - 1)
}

function makeMistake(folder, prefix, mistake) {
  const path = join(folder, prefix, mistake.file)
  const text = readFileSync(path, 'utf8')
  const parts = text.split(mistake.from)
  if (parts.length < 2 || (parts.length > 2 && mistake.nth === undefined && !isFirst(mistake)))
    throw new Error(`${mistake.id}: “${mistake.from}” ${parts.length - 1} times`)
  const now = parts[0] + mistake.to + parts.slice(1).join(mistake.from)
  writeFileSync(path, mistake.bytes === 'latin1' ? Buffer.from(now, 'latin1') : now)
  for (const [name, content] of Object.entries(mistake.adds ?? {})) {
    const target = join(folder, prefix, name)
    mkdirSync(dirname(target), { recursive: true })
    const size = /^png (\d+)x(\d+)$/.exec(content)
    writeFileSync(target, size ? pngOf(Number(size[1]), Number(size[2])) : content)
  }
  for (const name of mistake.removes ?? []) rmSync(join(folder, prefix, name))
  for (const [from, to] of Object.entries(mistake.moves ?? {})) {
    mkdirSync(dirname(join(folder, prefix, to)), { recursive: true })
    renameSync(join(folder, prefix, from), join(folder, prefix, to))
  }
  return now
}
/** Where the text stands more than once, the first is meant. */
const isFirst = () => true

function placesOf(folder, prefix, mistake, now) {
  const place = (at, isMain) => {
    const { file, line, nthLine } = typeof at === 'string' ? { file: mistake.file, line: at } : at
    if (file === '*') return { file: '*', line: null }
    const text = file === mistake.file ? now : line === '' ? '' : readFileSync(join(folder, prefix, file), 'utf8')
    try {
      return { file: prefix === '' ? file : join(prefix, file), line: lineIn(text, line, nthLine), ...(isMain ? { isMain } : {}) }
    } catch (error) {
      if (isMain) throw new Error(`${mistake.id}: ${error.message}`)
      return { file: 'none', line: 0 }
    }
  }
  const main = mistake.at ?? { file: mistake.file, line: mistake.line, nthLine: mistake.nthLine }
  return [place(main, true), ...(mistake.also ?? []).map((at) => place(at, false))]
}

/** Makes a mistake and says where it is; one that cannot be made counts as one that is not found. */
function madeIn(folder, prefix, mistake) {
  try {
    return placesOf(folder, prefix, mistake, makeMistake(folder, prefix, mistake))
  } catch (error) {
    say(`  ${mistake.id}: cannot be made (${error.message})`)
    rmSync(folder, { recursive: true })
    return null
  }
}

const totals = { mistakes: 0, found: 0, line: 0, alarms: 0 }
for (const server of Object.keys(FAMILIES)) {
  const prefix = server === 'lantern-row' ? 'extras' : ''
  const { mistakes } = parseYaml(readFileSync(`bench/mistakes/${server}.yml`, 'utf8'))
  const before = await check(at(server), server)
  say(`${server}: ${before.length} findings before any mistake (${before.filter(({ severity }) => severity === 'error').length} errors)`)
  if (process.argv.includes('--base')) for (const row of before) say(`  ${row.file}:${row.line} ${row.severity} ${row.code} ${row.message}`)
  const known = new Set(before.map(keyOf))
  for (const mistake of mistakes) {
    if (only !== null && mistake.id !== only) continue
    const folder = join(work, 'tried')
    cpSync(at(server), folder, { recursive: true })
    totals.mistakes++
    const places = madeIn(folder, prefix, mistake)
    if (!places) continue
    const fresh = (await check(folder, server)).filter((row) => !known.has(keyOf(row)))
    rmSync(folder, { recursive: true })
    const [main] = places
    const fits = (row, place) => place.file === '*' || (row.file === place.file && (place.line === null || row.line === place.line))
    const isRight = fresh.some((row) => fits(row, main))
    const isFound = isRight || fresh.some((row) => row.file === main.file || places.some((place) => fits(row, place)))
    // a note says what is so, and that nothing is wrong
    const alarms = fresh.filter((row) => row.severity !== 'note' && !places.some((place) => fits(row, place)))
    totals.found += isFound ? 1 : 0
    totals.line += isRight ? 1 : 0
    totals.alarms += alarms.length
    const isShown = only !== null || (process.argv.includes('--missed') && (!isRight || alarms.length > 0))
    if (!isShown) continue
    say(`  ${mistake.id}: ${isFound ? (isRight ? 'found' : 'found elsewhere') : 'MISSED'} (wanted ${main.file}:${main.line})`)
    for (const row of isRight && only === null ? alarms : fresh)
      say(`      ${alarms.includes(row) ? 'alarm ' : ''}${row.file}:${row.line} ${row.severity} ${row.code} ${row.message}`)
  }
}
const percent = (count) => `${((100 * count) / totals.mistakes).toFixed(1)} %`
say(`${totals.mistakes} mistakes: ${percent(totals.found)} found, ${percent(totals.line)} on the right line, ${totals.alarms} false alarms`)
rmSync(work, { recursive: true })
