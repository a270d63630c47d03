// Carries real settings files from each version to each newer one, customised in many seeded ways, and looks whether
// anything of mine is lost or wrong. The files are those of ../shared/real/fetch.sh; they are never committed.
//   node bench/real-files.mjs [FOLDER] [SEEDS]
import { execFileSync, spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { load } from 'js-yaml'
import luaparse from 'luaparse'
import { loadCore } from './core.mjs'
import { random } from './data.mjs'

const folder = process.argv[2] ?? process.env.REAL_FILES ?? join(process.env.TMPDIR ?? tmpdir(), 'pasticcio-real')
const seeds = Number(process.argv[3] ?? 40)
const changes = 15
if (!existsSync(folder)) {
  process.stderr.write(`${folder} is not there. Run ../shared/real/fetch.sh all first.\n`)
  process.exit(1)
}
const core = await loadCore()
const read = (text, format) => core.parse(text, format, { relaxed: true })
const work = mkdtempSync(join(tmpdir(), 'real-'))
const lua = ['lua5.4', 'lua', 'luajit'].find((name) => spawnSync(name, ['-v']).status === 0)

/** The single values of a document, with their pointers. */
function leaves(document) {
  const found = []
  const visit = (node, keys) => {
    if (core.isContainer(node)) for (const entry of node.entries) visit(entry.value, [...keys, entry.key])
    else if (node.type === 'scalar' && node.kind !== 'code') found.push([keys, node])
  }
  visit(document.root, [])
  return found
}

/** Sets, adds and removes settings here and there, each by an operation of the core; gives the text and what was done. */
function customise(text, format, next) {
  let document = read(text, format)
  const done = []
  const at = () => {
    const all = leaves(document)
    return all[Math.floor(next() * all.length)]
  }
  for (let i = 0; i < changes; i++) {
    const [keys, node] = at() ?? []
    if (!keys || (format === 'lua' && next() < 0.5)) {
      document = editCode(document, next, i)
      continue
    }
    const kind = next()
    const pointer = core.formatPointer(keys)
    if (done.some((item) => item.pointer === pointer || pointer.startsWith(item.pointer + '/') || item.pointer.startsWith(pointer + '/'))) continue
    const named = !/^\d+$/.test(keys[keys.length - 1])
    let edits
    try {
      if (kind < 0.12 && named) edits = core.removeEntry(document, keys)
      else if (kind < 0.24 && named && keys.length > 1) edits = core.duplicateEntry(document, keys, `mine_${i}`)
      else {
        const value = node.kind === 'bool' ? !node.value : node.kind === 'number' ? Number(node.value) + 7 : `${node.value ?? ''}-mine${i}`
        edits = core.setValue(document, keys, value)
      }
      document = core.editDocument(document, edits)
      done.push({ pointer, kind: kind < 0.12 && named ? 'removed' : kind < 0.24 && named && keys.length > 1 ? 'added' : 'changed' })
    } catch (error) {
      if (!(error instanceof core.OperationError)) throw error
    }
  }
  return document.text
}

/** A program file has more code than settings: a text somewhere in its code is changed by hand. */
function editCode(document, next, i) {
  const statements = document.root.entries.filter((entry) => entry.value.type === 'scalar' && entry.value.kind === 'code' && /"[\w.]+"/.test(document.text.slice(entry.from, entry.to)))
  const entry = statements[Math.floor(next() * statements.length)]
  const at = entry.from + document.text.slice(entry.from, entry.to).search(/"[\w.]+"/)
  return read(document.text.slice(0, at + 1) + `mine${i}_` + document.text.slice(at + 1), document.format)
}

/** Whether another implementation reads the text, too. */
function othersRead(text, format) {
  if (format === 'yaml') load(text)
  if (format === 'json') JSON.parse(JSON.stringify(core.toJson(read(text, format), read(text, format).root)))
  if (format === 'lua') {
    luaparse.parse(text.replace(/^#.*/, ''), { luaVersion: '5.1' })
    if (lua) {
      writeFileSync(join(work, 'check.lua'), text)
      execFileSync(lua, ['-e', `assert(loadfile(${JSON.stringify(join(work, 'check.lua'))}))`])
    }
  }
}

/** The node of that pointer; in a list, whose items may have moved along, the one at any position that reads the same. */
function inAnyPlace(document, keys, wanted) {
  const at = keys.findIndex((key) => /^\d+$/.test(key))
  const list = at < 0 ? null : core.getNode(document, keys.slice(0, at))
  if (list?.type !== 'list') return core.getNode(document, keys)
  const same = (node) => node && JSON.stringify(core.toJson(document, node)) === JSON.stringify(wanted)
  return list.entries.map((_entry, i) => core.getNode(document, [...keys.slice(0, at), String(i), ...keys.slice(at + 1)])).find(same) ?? null
}

const covers = (a, b) => a === b || a.startsWith(b + '/') || b.startsWith(a + '/')
const rows = []
const looks = new Map()
for (const name of readdirSync(folder).filter((item) => !item.startsWith('.')).sort()) {
  const versions = readdirSync(join(folder, name)).sort()
  const format = core.formatOf(versions[0])
  const texts = versions.map((file) => readFileSync(join(folder, name, file), 'utf8'))
  const row = { name, carries: 0, mine: 0, kept: 0, named: 0, lost: 0, wrong: 0, conflicts: 0 }
  for (let seed = 1; seed <= seeds; seed++)
    for (let a = 0; a < texts.length; a++)
      for (let b = a + 1; b < texts.length; b++) {
        const mine = customise(texts[a], format, random(seed * 1000 + a * 10 + b))
        const result = core.carry({ factory: texts[a], mine, update: texts[b], format })
        othersRead(result.text, format)
        const document = read(result.text, format)
        if (document.findings.some((finding) => finding.severity === 'error')) row.wrong++
        row.carries++
        for (const item of core.layer(read(texts[a], format), read(mine, format))) {
          if (item.kind === 'comment') continue
          row.mine++
          const said = result.decisions.filter((decision) => [decision.path, decision.from, decision.id].some((path) => path !== undefined && covers(path, item.path)))
          const there = core.getNode(document, core.parsePointer(item.path))
          const same = there && JSON.stringify(core.toJson(document, there)) === JSON.stringify(item.mine)
          const placed = said.some((decision) => decision.result !== undefined && JSON.stringify(decision.result).includes(JSON.stringify(item.mine)))
          if (item.kind === 'removed' ? !there || said.some((decision) => decision.outcome === 'stays-removed') : same || placed) row.kept++
          else if (said.some((decision) => decision.attention)) row.named++
          else row.lost++
        }
        // what nobody customised reads as in the update
        const update = read(texts[b], format)
        for (const [keys] of leaves(update)) {
          const pointer = core.formatPointer(keys)
          if (result.decisions.some((decision) => !['took-update', 'added-by-update', 'same-change', 'stamp'].includes(decision.outcome) && [decision.path, decision.id].some((path) => covers(path, pointer)))) continue
          const node = inAnyPlace(document, keys, core.toJson(update, core.getNode(update, keys)))
          if (!node || JSON.stringify(core.toJson(document, node)) !== JSON.stringify(core.toJson(update, core.getNode(update, keys)))) row.wrong++
        }
        for (const decision of result.decisions) if (decision.attention) {
          const key = `${name}: ${decision.outcome}: ${decision.reason.replace(/it seems to be .* now/, 'found again').replace(/[\d.]+( to | and is now )[\d.]+/, '…')}`
          looks.set(key, (looks.get(key) ?? 0) + 1)
        }
        const [one, two, three] = ['a', 'b', 'c'].map((file) => join(work, file))
        writeFileSync(one, mine)
        writeFileSync(two, texts[a])
        writeFileSync(three, texts[b])
        row.conflicts += (spawnSync('git', ['merge-file', '-p', one, two, three], { encoding: 'utf8' }).stdout.match(/^<<<<<<< /gm) ?? []).length
      }
  rows.push(row)
}
rmSync(work, { recursive: true })
process.stdout.write('| file | carries | customisations | in the result | named for a look | lost | wrong | `git merge-file`: conflicts |\n| --- | --- | --- | --- | --- | --- | --- | --- |\n')
for (const row of rows) process.stdout.write(`| ${row.name} | ${row.carries} | ${row.mine} | ${row.kept} | ${row.named} | ${row.lost} | ${row.wrong} | ${row.conflicts} |\n`)
process.stdout.write('\nWhat needed a look:\n\n')
for (const [key, count] of [...looks].sort()) process.stdout.write(`- ${key} (${count})\n`)
if (rows.some((row) => row.lost + row.wrong > 0)) process.exitCode = 1
