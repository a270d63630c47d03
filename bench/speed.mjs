// Measures the core against general parsers, as ratios from one run: npm run bench
// Every pair runs interleaved, and the median counts, so that a busy machine slows both alike.
import { load } from 'js-yaml'
import luaparse from 'luaparse'
import { loadCore } from './core.mjs'
import { commentedYaml, jsonText, luaText, manyEntries } from './data.mjs'

const core = await loadCore(
  './packages/core/tests/lineage.ts',
  './packages/core/tests/lineage-judge.ts',
  './packages/core/tests/dialects.ts',
)

const read = (text, format) => core.parse(text, format, core.LENIENT)

/** Median milliseconds of each function, run in turns. */
function measure(functions, rounds) {
  const times = functions.map(() => [])
  for (let round = -Math.ceil(rounds / 4); round < rounds; round++)
    functions.forEach((run, i) => {
      const from = performance.now()
      run()
      if (round >= 0) times[i].push(performance.now() - from)
    })
  return times.map((list) => list.sort((a, b) => a - b)[list.length >> 1])
}

const rows = []
const row = (what, goal, ratio, detail) => rows.push({ what, goal, ratio, detail })
const ms = (value) => `${value < 10 ? value.toFixed(2) : value.toFixed(0)} ms`

function against(what, text, format, other, name, goal, rounds) {
  const [ours, theirs] = measure([() => read(text, format), () => other(text)], rounds)
  row(what, `≤ ${goal} × ${name}`, ours / theirs, `${ms(ours)} to ${ms(theirs)}, ${(text.length / 1e6).toFixed(2)} MB`)
}

const small = commentedYaml(90_000)
const large = manyEntries(20_000)
against('read 90 KB of commented YAML', small, 'yaml', load, 'js-yaml', 1, 60)
against('read 20,000 entries of YAML', large, 'yaml', load, 'js-yaml', 1, 9)
against('read JSON', jsonText(8_000), 'json', JSON.parse, 'JSON.parse', 4, 15)
against(
  'read Lua',
  luaText(6_000),
  'lua',
  (text) => luaparse.parse(text, { luaVersion: '5.3', comments: true, ranges: true, locations: true }),
  'luaparse',
  1,
  15,
)

// three versions of a file of some 2,000 lines: mine with twenty changes, the update with thirty
const factory = commentedYaml(60_000).split('\n').slice(0, 2_000).join('\n') + '\n'
const change = (text, every, to) =>
  text
    .split('\n')
    .map((line, i) => (i % every === 7 && /pause: \d+/.test(line) ? line.replace(/\d+/, to) : line))
    .join('\n')
const mine = change(factory, 11, '77')
const update = change(factory, 13, '5').replace(/title: "The r/g, '# In the menu.\n  title: "The r')
const [carried, readThree] = measure(
  [() => core.carry({ factory, mine, update, format: 'yaml' }), () => [factory, mine, update].map((text) => read(text, 'yaml'))],
  80,
)
row('carry three files of 2,000 lines', '≤ 2 × reading the three', carried / readThree, `${ms(carried)} to ${ms(readThree)}`)

// one edit in the large file: re-read it, check it against rules, find the places of its findings
const document = read(large, 'yaml')
const rules = core.inferRules(read(manyEntries(20), 'yaml'))
const keys = ['entries', 'entry-10000', 'price']
let at = 0
const edit = () => {
  at++
  const edits = core.setValue(current, keys, at)
  const next = core.rereadInPlace(current, edits)
  current = next.document
  findings = core.recheckRules(current, rules, findings, next.changes)
}
let current = document
let findings = core.checkRules(document, rules)
const [edited, whole] = measure([edit, () => read(large, 'yaml')], 25)
row('one edit in 20,000 entries, re-read and re-checked', '≤ 0.05 × reading it', edited / whole, `${ms(edited)} to ${ms(whole)}`)

for (const [format, make] of [
  ['yaml', manyEntries],
  ['json', jsonText],
  ['lua', luaText],
]) {
  const sizes = [12_000, 120_000].map((count) => make(count))
  const [one, ten] = measure(
    sizes.map((text) => () => read(text, format)),
    3,
  )
  row(`ten times as much ${format} (${(sizes[1].length / 1e6).toFixed(0)} MB)`, '≤ 15 × the time', ten / one, `${ms(one)}, ${ms(ten)}`)
}

// lists of every kind: mine with a tenth of the items edited, in the update each item gained a key where it can
const yaml = core.DIALECTS.find((dialect) => dialect.name === 'yaml')
function threeLists(kind, count) {
  const maker = new core.Maker(kind, core.seeded(5))
  const items = Array.from({ length: count }, () => maker.fresh())
  const write = (list) => yaml.render(core.toModel({ fields: new Map([['goods', { items: list }]]) }), core.PLAIN_STYLE)
  const edited = (item) =>
    core.isFields(item.part)
      ? {
          ...item,
          part: {
            fields: new Map(
              [...item.part.fields].map(([key, value], i, all) => [key, i === all.length - 1 && typeof value === 'number' ? 7 : value]),
            ),
          },
        }
      : item
  const gained = (item) =>
    core.isFields(item.part) && !['steps', 'sections', 'mixed'].includes(kind)
      ? { ...item, part: { fields: new Map([...item.part.fields, ['icon', maker.int(9)]]) } }
      : edited(item)
  return {
    factory: write(items),
    mine: write(items.map((item, i) => (i % 10 === 3 ? edited(item) : item))),
    update: write(items.map(gained)),
    format: 'yaml',
  }
}
for (const kind of ['codes', 'ids', 'sections', 'steps', 'nested', 'mixed', 'deep']) {
  const [small, large] = [2_000, 20_000].map((count) => threeLists(kind, kind === 'deep' ? count / 10 : count))
  const [one, ten] = measure([() => core.carry(small), () => core.carry(large)], 3)
  row(`carry lists of ${kind}, ten times as many`, '≤ 13 × the time', ten / one, `${ms(one)}, ${ms(ten)}`)
}
const [forty, four] = [40_000, 4_000].map((count) => threeLists('nested', count))
const [most, tenth] = measure([() => core.carry(forty), () => core.carry(four)], 3)
row('carry 40,000 nameless items that each gained a key', '≤ 13 × a tenth', most / tenth, `${ms(tenth)}, ${ms(most)}`)

process.stdout.write('| what | aim | measured | times |\n| --- | --- | --- | --- |\n')
for (const item of rows)
  process.stdout.write(
    `| ${item.what} | ${item.goal} | ${item.ratio < 0.1 ? item.ratio.toFixed(3) : item.ratio.toFixed(2)} | ${item.detail} |\n`,
  )
