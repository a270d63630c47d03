// How well what settings are is told from factory copies alone: precision and recall of kind, unit, range and choices over the
// settings of bench/labelled/, each labelled by hand. `node bench/rules.mjs [--wrong]`
import { readFileSync } from 'node:fs'
import { loadCore } from './core.mjs'
import { PARTS, labelledSets, score } from './labelled/score.mjs'

const say = (text) => process.stdout.write(`${text}\n`)
const { RuleBook, formatOf, inferRules, itemRegistry, parse, parsePointer, readingFor, toJson } = await loadCore(
  './packages/standin/src/server/items.ts',
)
/** The lists of the server the demo runs. */
const known = {
  items: new Set(itemRegistry().map(({ id }) => id)),
  places: new Set(['delta', 'upriver', 'saltpans', 'undertow']),
  groups: new Set(['mudlark', 'ferryman', 'warden']),
}
const read = (path) => parse(readFileSync(path, 'utf8'), formatOf(path), readingFor(path, null))
const sets = labelledSets({ read, data: (document) => toJson(document, document.root) })
const books = new Map()
function ruleOf(path, pointer) {
  if (!books.has(path)) books.set(path, new RuleBook(inferRules(read(path), known)))
  return books.get(path).find(parsePointer(pointer))
}

const percent = (a, b) => (b === 0 ? '–' : `${((100 * a) / b).toFixed(1)} %`)
for (const { name, files } of [...sets, { name: 'all together', files: sets.flatMap((set) => set.files) }]) {
  const { counts, wrong, settings, plain } = score(files, ruleOf)
  say(`${name}: ${settings} settings in ${files.length} files, of ${percent(plain, settings)} the kind is right`)
  for (const part of PARTS) {
    const { right, said, wanted } = counts[part]
    say(
      `  ${part.padEnd(8)} precision ${percent(right, said).padStart(7)}   recall ${percent(right, wanted).padStart(7)}   (${right} of ${said} said, ${wanted} there)`,
    )
  }
  if (process.argv.includes('--wrong') && name !== 'all together') for (const line of wrong) say(`  ${line}`)
}
