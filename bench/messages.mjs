// How well the texts that players read are told from other settings, and where and when they are seen, against labels.
// `node bench/messages.mjs [--wrong]`
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { loadCore } from './core.mjs'
import { scoreMessages } from './messages/score.mjs'

const core = await loadCore(
  './packages/core/src/messages/find.ts',
  './packages/standin/src/server/items.ts',
  './packages/core/src/tree/nodes.ts',
)
const { formatOf, formatPointer, isContainer, itemRegistry, markupOf, messagesIn, parse, readFamily, readingFor, toJson, workspaceFile } =
  core
const family = readFamily(readFileSync('families/archive.yml', 'utf8'))
const script = readFamily(readFileSync('families/script.yml', 'utf8'))
const known = {
  items: new Set(itemRegistry().map(({ id }) => id)),
  places: new Set(['delta', 'upriver', 'saltpans', 'undertow']),
  groups: new Set(['mudlark', 'ferryman', 'warden']),
}
const labels = toJson2('bench/messages/labels.yml')

function toJson2(path) {
  const document = parse(readFileSync(path, 'utf8'), formatOf(path), readingFor(path, null))
  return toJson(document, document.root)
}
const fileAt = (path) => {
  const text = readFileSync(path, 'utf8')
  return workspaceFile({ path, plugin: 'A', text, factory: text, reading: readingFor(path, family), known })
}
function pointersOf(path) {
  const found = []
  const visit = (node, keys) => {
    if (!isContainer(node)) return
    for (const { key, value } of node.entries) {
      const at = [...keys, key]
      const isTexts =
        value.type === 'list' &&
        value.entries.length > 0 &&
        value.entries.every((item) => item.value.type === 'scalar' && item.value.kind === 'text')
      if (isTexts || (value.type === 'scalar' && value.kind === 'text' && node.type !== 'list')) found.push(formatPointer(at))
      else if (isContainer(value)) visit(value, at)
    }
  }
  visit(fileAt(path).document.root, [])
  return found
}
for (const [name, folder] of [
  ['demo', 'packages/standin/demo'],
  ['others', 'bench/labelled'],
  ['unseen', 'bench/labelled/unseen'],
]) {
  const files = Object.entries(labels[name]).map(([path, of]) => [join(folder, path), of])
  const { counts, wrong } = scoreMessages(
    files,
    (path) => messagesIn(fileAt(path), markupOf(path.includes('scripts') ? script : family)),
    pointersOf,
  )
  const share = (a, b) => `${((100 * a) / Math.max(1, b)).toFixed(1)} %`
  process.stdout.write(
    `${name}: ${counts.wanted} texts; ${share(counts.right, counts.told)} of those told are some, ${share(counts.right, counts.wanted)} of them are told; surface ${share(counts.surface, counts.right)}, moment ${share(counts.moment, counts.right)}\n`,
  )
  if (process.argv.includes('--wrong')) for (const one of wrong) process.stdout.write(`  ${one}\n`)
}
