// What is found, at which level, where nothing is wrong: in all real files that ../shared/real/fetch.sh fetches (each against
// itself, against nothing, and the newest as what somebody made of the oldest), and on 200 generated servers.
//   node bench/false-alarms.mjs [FOLDER]
import { existsSync, readFileSync, readdirSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { loadCore } from './core.mjs'

const say = (text) => process.stdout.write(`${text}\n`)
const {
  NO_KNOWLEDGE,
  checkWorkspace,
  formatOf,
  lenient,
  makeServer,
  markupOf,
  readFamily,
  readingFor,
  seededRandom,
  workspaceFile,
  workspaceOf,
} = await loadCore('./packages/core/tests/well-formed.ts')
const families = ['archive', 'script', 'bundle'].map((id) => readFamily(readFileSync(`families/${id}.yml`, 'utf8')))
const levels = () => ({ error: 0, warning: 0, note: 0 })
function count(into, findings) {
  for (const finding of findings) into[finding.severity]++
  if (process.argv.includes('--shown'))
    for (const { severity, code, file, message } of findings) if (severity !== 'note') say(`  ${severity} ${file} ${code} ${message}`)
}

const folder =
  process.argv[2] && !process.argv[2].startsWith('--') ? process.argv[2] : join(process.env.TMPDIR ?? tmpdir(), 'pasticcio-real')
if (existsSync(folder)) {
  const real = { itself: levels(), nothing: levels(), older: levels() }
  let files = 0
  for (const name of readdirSync(folder, { withFileTypes: true })
    .filter((entry) => entry.isDirectory() && !entry.name.startsWith('.'))
    .map(({ name }) => name)
    .sort()) {
    const versions = readdirSync(join(folder, name))
      .filter((file) => formatOf(file))
      .sort()
    const texts = versions.map((version) => readFileSync(join(folder, name, version), 'utf8'))
    versions.forEach((version, i) => {
      files++
      for (const family of families) {
        const knowledge = { ...NO_KNOWLEDGE, texts: markupOf(family) }
        const found = (text, factory) => {
          const file = workspaceFile({
            path: version,
            plugin: name,
            text,
            factory,
            reading: lenient(readingFor(version, family)),
          })
          return checkWorkspace(workspaceOf([file], family, [], knowledge)).map((finding) => ({ ...finding, file: `${name}/${version}` }))
        }
        count(real.itself, found(texts[i], texts[i]))
        count(real.nothing, found(texts[i], null))
        if (i > 0) count(real.older, found(texts[i], texts[0]))
      }
    })
  }
  for (const [against, { error, warning, note }] of Object.entries(real))
    say(`${files} real files in 3 families, against ${against}: ${error} errors, ${warning} warnings, ${note} notes`)
} else say(`${folder} is not there: run ../shared/real/fetch.sh all for the real files`)

const made = levels()
for (let seed = 1; seed <= 200; seed++) {
  const { plugins, files, lists, groupsFile } = makeServer(seededRandom(seed))
  const read = Object.entries(files).map(([path, { mine, shipped }]) =>
    workspaceFile({ path, plugin: path.split('/')[1], text: mine, factory: shipped, reading: readingFor(path, families[0]), known: lists }),
  )
  const known = plugins.map((plugin) => ({ ...plugin, version: '1.0.0', path: plugin.name, isOff: false, requires: {}, conflicts: {} }))
  const knowledge = {
    ...NO_KNOWLEDGE,
    lists,
    plugins: known,
    commands: new Set(['say']),
    texts: markupOf(families[0]),
    groups: { file: groupsFile, at: '/groups' },
  }
  count(made, checkWorkspace(workspaceOf(read, families[0], known, knowledge)))
}
say(`200 generated servers: ${made.error} errors, ${made.warning} warnings, ${made.note} notes`)
