// Carries real settings files from each version to each newer one, customised in many seeded ways, and looks whether
// anything of mine is lost, anything of the update is missing, or anything else is wrong. The files are those of
// ../shared/real/fetch.sh; they are never committed. What must come out is worked out from the edits on plain data
// (expectation.mjs), and results are read by other parsers; only decisions that ask excuse anything.
//   node bench/real-files.mjs [FOLDER] [SEEDS] [NAME,…]
import { spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { CORE_SCHEMA, load } from 'js-yaml'
import { at, edited, expectation, found, makeEdits, print } from './expectation.mjs'
import luaparse from 'luaparse'
import { loadCore } from './core.mjs'
import { random } from './data.mjs'

const folder = process.argv[2] || process.env.REAL_FILES || join(process.env.TMPDIR ?? tmpdir(), 'pasticcio-real')
const seeds = Number(process.argv[3] ?? 25)
const only = process.argv[4]?.split(',')
const CHANGES = 15
if (!existsSync(folder)) {
  process.stderr.write(`${folder} is not there. Run ../shared/real/fetch.sh all first.\n`)
  process.exit(1)
}
const core = await loadCore('./packages/core/tests/other-readers.ts')
const ours = (text, format) => core.parse(text, format, core.LENIENT)
const work = mkdtempSync(join(tmpdir(), 'real-'))

/** What another parser finds in a file. */
function read(text, format) {
  if (format === 'yaml') return load(text, { schema: CORE_SCHEMA }) ?? {}
  if (format === 'json') return core.readJsonWithComments(text)
  return core.readIniAsData(text)
}

/** The text with the edits made in it; null where one cannot be made there. */
function customise(text, format, edits) {
  let document = ours(text, format)
  try {
    for (const edit of edits) {
      const { kind, keys } = edit
      const parent = keys.slice(0, -1)
      const position = Number(keys[keys.length - 1])
      const made = {
        set: () => core.setValue(document, keys, edit.value),
        add: () => core.addEntry(document, parent, keys[keys.length - 1], edit.value, edit.after),
        remove: () => core.removeEntry(document, keys),
        delete: () => core.removeEntry(document, keys),
        insert: () => core.addEntry(document, parent, null, core.fromJson(edit.value), position === 0 ? null : String(position - 1)),
        move: () => core.moveEntry(document, keys, parent, edit.to === 0 ? null : String(edit.to > position ? edit.to : edit.to - 1)),
      }[kind]()
      document = core.editDocument(document, made)
    }
  } catch (error) {
    if (error instanceof core.OperationError) return null
    throw error
  }
  return document.text
}

const pointer = (keys) => core.formatPointer(keys)
const covers = (a, b) => a === b || a.startsWith(b + '/') || b.startsWith(a + '/')

/** Compares a result with what must come out; gives the faults by kind. */
function judge({ factory, update, edits, mine, result, decisions }) {
  const faults = { lost: [], wrong: [], missing: [] }
  const asks = decisions.filter((decision) => decision.attention)
  const asked = (...pointers) =>
    asks.some((decision) =>
      pointers.some(
        (one) => one !== null && [decision.path, decision.from, decision.id].some((path) => path !== undefined && covers(path, one)),
      ),
    )
  const { targets, untouched } = expectation(factory, update, edits)
  // items of lists are looked for as they must look then
  const wanted = edited(
    update,
    targets.filter(({ keys, edit }) => keys && ['set', 'add', 'remove'].includes(edit.kind)).map(({ keys, edit }) => ({ ...edit, keys })),
  )
  for (const { edit, keys } of targets) {
    const own = pointer(edit.keys)
    const where = keys && pointer(keys)
    if (asked(own, where)) continue
    const there = keys ? found(wanted, result, keys) : null
    const text = JSON.stringify(result)
    if (edit.kind === 'set' ? !(there && print(there.value) === print(edit.value)) && !text.includes(JSON.stringify(edit.value)) : false)
      faults.lost.push([own, edit])
    if (edit.kind === 'add' && !text.includes(JSON.stringify(edit.value))) faults.lost.push([own, edit])
    if (edit.kind === 'insert' && !hasItem(result, edit.value)) faults.lost.push([own, edit])
    if (edit.kind === 'remove' && keys && there) faults.lost.push([own, edit])
    if (edit.kind === 'delete' && keys && hasItem(at(result, keys.slice(0, -1)), at(update, keys))) faults.lost.push([own, edit])
    if (edit.kind === 'move' && keys && !standsInMyOrder(mine, result, edit)) faults.lost.push([own, edit])
  }
  for (const [keys, value] of untouched) {
    const there = found(wanted, result, keys)
    if (there && print(there.value) === print(value)) continue
    const where = there ? pointer(there.way) : pointer(keys)
    const offered = decisions.some((decision) => decision.outcome === 'offered' && covers(pointer(keys), decision.id))
    // what is inside a list whose items have no names is looked for by what it says, anywhere
    if (offered || asked(where, pointer(keys))) continue
    faults[there ? 'wrong' : 'missing'].push([where, value, there?.value])
  }
  return faults
}

function hasItem(data, item) {
  if (typeof data !== 'object' || data === null) return false
  if (print(data) === print(item)) return true
  return Object.values(data).some(
    (value) =>
      hasItem(value, item) ||
      (typeof value === 'object' && value !== null && Object.entries(item).every(([key, one]) => print(value[key]) === print(one))),
  )
}

/** Whether what I moved follows what it follows in mine, if that is there. */
function standsInMyOrder(mine, result, edit) {
  const list = at(mine, edit.keys.slice(0, -1))
  const there = at(result, edit.keys.slice(0, -1))
  if (!Array.isArray(there)) return true
  const name = Object.keys(list[0]).find((key) => new Set(list.map((item) => print(item[key]))).size === list.length)
  const place = (item) => there.findIndex((other) => (name ? print(other?.[name]) === print(item[name]) : print(other) === print(item)))
  const [self, before] = [place(list[edit.to]), edit.to > 0 ? place(list[edit.to - 1]) : -1]
  return self < 0 || self > before
}

/** What `git merge-file` makes of the three. */
function mergeLines(mine, factory, update) {
  const paths = ['a', 'b', 'c'].map((file) => join(work, file))
  ;[mine, factory, update].forEach((text, i) => writeFileSync(paths[i], text))
  return spawnSync('git', ['merge-file', '-p', ...paths], { encoding: 'utf8' })
}

const conflictsIn = (merged) => (merged.stdout.match(/^<<<<<<< /gm) ?? []).length

/** Texts in a program, each changed in a line of its own. */
function editProgram(text, seed) {
  const next = random(seed)
  const lines = text.split('\n')
  const places = lines.flatMap((line, i) => (/"[\w ./-]{3,}"/.test(line) && !/^\s*--/.test(line) ? [i] : []))
  const marks = []
  for (let i = 0; i < CHANGES && places.length > 0; i++) {
    const [at] = places.splice(Math.floor(next() * places.length), 1)
    marks.push(`mine${seed}x${i}`)
    lines[at] = lines[at].replace(/"(?=[\w ./-]{3,}")/, `"${marks[i]}`)
  }
  return { text: lines.join('\n'), marks }
}

/** Programs: every text of mine is in the result or asked about, and where git merges cleanly, ours has the same lines. */
function judgeProgram(factory, mine, update, marks, merged) {
  const { text, decisions } = core.carry({ factory, mine, update, format: 'lua' })
  const asked = decisions.filter((decision) => decision.attention)
  luaparse.parse(text.replace(/^#.*/, ''), { luaVersion: 'LuaJIT' })
  const lost = marks.filter((mark) => !text.includes(mark) && !asked.some((decision) => JSON.stringify(decision.mine ?? '').includes(mark)))
  // a statement without a name that I changed may stand a line off among its neighbours
  const lines = (program) =>
    program
      .split('\n')
      .filter((line) => line.trim() !== '')
      .sort()
      .join('\n')
  const differs = merged.status === 0 && lines(merged.stdout) !== lines(text) && asked.length === 0
  return { lost, wrong: differs ? ['differs from a clean merge of lines'] : [], asked: asked.length }
}

const rows = []
const examples = []
for (const name of readdirSync(folder)
  .filter((item) => !item.startsWith('.') && (!only || only.includes(item)))
  .sort()) {
  const versions = readdirSync(join(folder, name)).sort()
  const format = core.formatOf(versions[0])
  const texts = versions.map((file) => readFileSync(join(folder, name, file), 'utf8'))
  const row = { name, carries: 0, edits: 0, asked: 0, lost: 0, wrong: 0, missing: 0, conflicts: 0 }
  for (let seed = 1; seed <= seeds; seed++)
    for (let a = 0; a < texts.length; a++)
      for (let b = a + 1; b < texts.length; b++) {
        if (format === 'lua') {
          const { text: mine, marks } = editProgram(texts[a], seed)
          const merged = mergeLines(mine, texts[a], texts[b])
          const found = judgeProgram(texts[a], mine, texts[b], marks, merged)
          row.carries++
          row.edits += marks.length
          row.asked += found.asked
          row.lost += found.lost.length
          row.wrong += found.wrong.length
          row.conflicts += conflictsIn(merged)
          for (const one of [...found.lost, ...found.wrong]) examples.push(`${name} ${versions[a]} ${versions[b]} seed ${seed}: ${one}`)
          continue
        }
        const [factory, update] = [texts[a], texts[b]].map((text) => read(text, format))
        const edits = makeEdits(factory, CHANGES, seed * 1000 + a * 10 + b, format !== 'ini')
        const mine = customise(texts[a], format, edits)
        if (mine === null || print(read(mine, format)) !== print(edited(factory, edits))) {
          row.unusable = (row.unusable ?? 0) + 1
          continue
        }
        const carried = core.carry({ factory: texts[a], mine, update: texts[b], format })
        const faults = judge({
          factory,
          update,
          edits,
          mine: edited(factory, edits),
          result: read(carried.text, format),
          decisions: carried.decisions,
        })
        row.carries++
        row.edits += edits.length
        row.asked += carried.decisions.filter((decision) => decision.attention).length
        for (const kind of ['lost', 'wrong', 'missing']) {
          row[kind] += faults[kind].length
          if (faults[kind].length > 0)
            examples.push(`${name} ${versions[a]} ${versions[b]} seed ${seed} ${kind}: ${JSON.stringify(faults[kind].slice(0, 2))}`)
        }
        row.conflicts += conflictsIn(mergeLines(mine, texts[a], texts[b]))
      }
  rows.push(row)
}
rmSync(work, { recursive: true })
process.stdout.write(
  '| file | carries | customisations | decisions that ask | lost | wrong | missing | `git merge-file`: conflicts |\n| --- | --- | --- | --- | --- | --- | --- | --- |\n',
)
for (const row of rows)
  process.stdout.write(
    `| ${row.name} | ${row.carries}${row.unusable ? ` (${row.unusable} left out)` : ''} | ${row.edits} | ${row.asked} | ${row.lost} | ${row.wrong} | ${row.missing} | ${row.conflicts} |\n`,
  )
process.stdout.write(
  `\n${examples
    .slice(0, 40)
    .map((line) => '- ' + line.slice(0, 600))
    .join('\n')}\n`,
)
if (rows.some((row) => row.lost + row.wrong + row.missing > 0)) process.exitCode = 1
