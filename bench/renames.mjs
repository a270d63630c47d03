// How surely renamed and moved settings are found again: real files whose keys are renamed and moved in seeded ways, so
// that it is known what went where. The aim: at least 95 % found, at most 0.5 % taken for something they are not.
//   node bench/renames.mjs [FOLDER] [SEEDS]
import { existsSync, readFileSync, readdirSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { loadCore } from './core.mjs'
import { random } from './data.mjs'

const folder = process.argv[2] || process.env.REAL_FILES || join(process.env.TMPDIR ?? tmpdir(), 'pasticcio-real')
const seeds = Number(process.argv[3] ?? 12)
if (!existsSync(folder)) {
  process.stderr.write(`${folder} is not there. Run ../shared/real/fetch.sh all first.\n`)
  process.exit(1)
}
const core = await loadCore()
const WORDS = ['amber', 'barge', 'heron', 'kiln', 'lantern', 'otter', 'quay', 'reed', 'weir']

const split = (name) =>
  name
    .replace(/([a-z0-9])([A-Z])/g, '$1 $2')
    .split(/[^A-Za-z0-9]+/)
    .filter((word) => word !== '')
    .map((word) => word.toLowerCase())
const camel = (words) => words.map((word, i) => (i === 0 ? word : word[0].toUpperCase() + word.slice(1))).join('')
const plural = (name) => (/s$/.test(name) ? name.replace(/s$/, '') : /[a-z]$/.test(name) ? `${name}s` : name)

/** Ways to rename one key. */
const RENAMES = {
  'word added in front': (name, pick) => `${pick(WORDS)}${/-/.test(name) || !/_/.test(name) ? '-' : '_'}${name}`,
  'word added behind': (name, pick) => `${name}${/-/.test(name) || !/_/.test(name) ? '-' : '_'}${pick(WORDS)}`,
  'first word dropped': (name) => (split(name).length > 2 ? split(name).slice(1).join('-') : null),
  'singular or plural': (name) => plural(name),
  'another convention': (name) => (split(name).length > 1 ? camel(split(name)) : null),
}

/** Entries that may be renamed, with their keys: those of sections that are not inside lists. */
function entriesOf(document) {
  const found = []
  const visit = (node, keys) => {
    if (node.type !== 'map') return
    for (const entry of node.entries) {
      found.push({ keys: [...keys, entry.key], entry })
      visit(entry.value, [...keys, entry.key])
    }
  }
  visit(document.root, [])
  return found.filter(({ keys }) => keys.every((key) => /^[\w.-]+$/.test(key)))
}

/** Follows an old way through changes, given as old and new keys of what was renamed or moved, in the order it was done. */
const follow = (keys, changes) =>
  changes.reduce((way, [from, to]) => (from.every((key, i) => way[i] === key) ? [...to, ...way.slice(from.length)] : way), keys)

function scenario(kind, document, next) {
  const pick = (list) => list[Math.floor(next() * list.length)]
  let now = document
  const changes = []
  const doIt = (from, to, edits) => {
    now = core.editDocument(now, edits)
    changes.push([from, to])
  }
  const rename = (keys, name) => {
    const to = [...keys.slice(0, -1), name]
    if (name === null || name === keys[keys.length - 1] || core.getNode(now, to)) return
    doIt(keys, to, core.renameEntry(now, keys, name))
  }
  const attempt = (action) => {
    try {
      action()
    } catch (error) {
      if (!(error instanceof core.OperationError)) throw error
    }
  }
  const all = entriesOf(document)
  const sections = all.filter(({ entry }) => entry.value.type === 'map' && entry.value.entries.length > 1)
  const settings = all.filter(({ entry }) => entry.value.type !== 'map')
  if (kind === 'all keys in another convention') {
    for (const { keys } of [...all].reverse()) {
      const words = split(keys[keys.length - 1])
      if (words.length > 1) attempt(() => rename(keys, /[A-Z]/.test(keys[keys.length - 1]) ? words.join('-') : camel(words)))
    }
    // inner ones were renamed first: the way to an outer one is still the old one
    changes.reverse()
    return {
      text: now.text,
      follow: (keys) =>
        keys.map((key, i) => changes.find(([from]) => from.length === i + 1 && from.every((one, j) => one === keys[j]))?.[1][i] ?? key),
    }
  }
  if (kind === 'sections renamed')
    for (let i = 0; i < 3 && sections.length > 0; i++)
      attempt(() => rename(follow(pick(sections).keys, changes), `${pick(WORDS)}-${pick(['part', 'rules', 'options'])}`))
  else if (kind === 'section moved into another') {
    // INI has no sections in sections
    if (document.format === 'ini') return { text: now.text, follow: (keys) => keys }
    const [one, two] = [pick(sections), pick(sections)]
    if (
      one &&
      two &&
      one !== two &&
      !two.keys.join('/').startsWith(one.keys.join('/')) &&
      !core.getNode(now, [...two.keys, one.keys.at(-1)])
    )
      attempt(() => doIt(one.keys, [...two.keys, one.keys.at(-1)], core.moveEntry(now, one.keys, two.keys)))
  } else if (kind === 'settings moved') {
    for (let i = 0; i < 4; i++) {
      const [one, two] = [pick(settings), pick(sections)]
      if (!one || !two) break
      const [from, target] = [follow(one.keys, changes), follow(two.keys, changes)]
      const to = [...target, from.at(-1)]
      if (from.slice(0, -1).join('/') !== target.join('/') && !core.getNode(now, to))
        attempt(() => doIt(from, to, core.moveEntry(now, from, target)))
    }
  } else if (kind === 'prefix becomes a section') {
    const name = pick(WORDS)
    attempt(() => {
      now = core.editDocument(now, core.addEntry(now, [], name, new Map([['on', true]])))
      const flat = settings.filter(({ keys }) => keys.length === 1)
      for (let i = 0; i < 5 && flat.length > 0; i++) {
        const { keys } = pick(flat)
        if (changes.some(([from]) => from[0] === keys[0])) continue
        doIt(keys, [name, keys[0]], core.moveEntry(now, keys, [name]))
      }
    })
  } else
    for (let i = 0; i < 6 && settings.length > 0; i++) {
      const keys = follow(pick(settings).keys, changes)
      attempt(() => rename(keys, RENAMES[kind](keys[keys.length - 1], pick)))
    }
  return { text: now.text, follow: (keys) => follow(keys, changes) }
}

const KINDS = [
  ...Object.keys(RENAMES),
  'all keys in another convention',
  'sections renamed',
  'section moved into another',
  'settings moved',
  'prefix becomes a section',
]
const tally = new Map(KINDS.map((kind) => [kind, { all: 0, found: 0, wrong: 0 }]))
for (const name of readdirSync(folder)
  .filter((item) => !item.startsWith('.'))
  .sort())
  for (const file of readdirSync(join(folder, name))) {
    const format = core.formatOf(file)
    if (!['yaml', 'json', 'ini'].includes(format)) continue
    const text = readFileSync(join(folder, name, file), 'utf8')
    for (const kind of KINDS)
      for (let seed = 1; seed <= seeds; seed++) {
        const document = core.parse(text, format, core.LENIENT)
        const made = scenario(kind, document, random(seed * 77 + name.length))
        const update = core.parse(made.text, format, core.LENIENT)
        if (update.findings.some((finding) => finding.severity === 'error')) continue
        const factory = core.parse(text, format, core.LENIENT)
        const moves = core.findMoves(factory, update)
        const row = tally.get(kind)
        for (const { keys } of entriesOf(factory).filter(({ entry }) => entry.value.type !== 'map')) {
          const [old, wanted] = [core.formatPointer(keys), core.formatPointer(made.follow(keys))]
          const got = moves.get(old)
          if (old !== wanted) row.all++
          if (old !== wanted && got === wanted) row.found++
          else if (got !== undefined && got !== wanted) {
            row.wrong++
            if (process.env.SHOW) process.stdout.write(`wrong ${name} ${kind} ${seed}: ${old} → ${got}, not ${wanted}\n`)
          } else if (old !== wanted && process.env.SHOW) process.stdout.write(`missed ${name} ${kind} ${seed}: ${old} → ${wanted}\n`)
        }
      }
  }
const sum = [...tally.values()].reduce((a, b) => ({ all: a.all + b.all, found: a.found + b.found, wrong: a.wrong + b.wrong }))
process.stdout.write('| what was done | settings | found | taken for another |\n| --- | --- | --- | --- |\n')
for (const [kind, row] of [...tally, ['all', sum]])
  process.stdout.write(
    `| ${kind} | ${row.all} | ${((100 * row.found) / Math.max(1, row.all)).toFixed(1)} % | ${((100 * row.wrong) / Math.max(1, row.all)).toFixed(2)} % |\n`,
  )
