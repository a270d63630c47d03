// How well slips in real files are named: the files of ../shared/real/fetch.sh, with every kind of slip in many places.
//   node bench/diagnosis.mjs [FOLDER] [MOST OF EACH KIND PER FILE]
import { existsSync, readFileSync, readdirSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { loadCore } from './core.mjs'
import { random } from './data.mjs'

const folder = process.argv[2] || process.env.REAL_FILES || join(process.env.TMPDIR ?? tmpdir(), 'pasticcio-real')
const most = Number(process.argv[3] ?? 20)
if (!existsSync(folder)) {
  process.stderr.write(`${folder} is not there. Run ../shared/real/fetch.sh all first.\n`)
  process.exit(1)
}
const { slipsIn, judge, formatOf, parse, LENIENT } = await loadCore('./packages/core/tests/slips.ts')
const next = random(7)
const tally = new Map()
let alarms = 0
for (const name of readdirSync(folder).filter((item) => !item.startsWith('.')))
  for (const file of readdirSync(join(folder, name))) {
    const format = formatOf(file)
    const text = readFileSync(join(folder, name, file), 'utf8')
    alarms += parse(text, format, LENIENT).findings.filter((finding) => finding.severity !== 'note').length
    for (const slip of slipsIn(text, format, most, next)) {
      const said = judge(slip, format)
      const key = `${format}: ${slip.kind}`
      const row = tally.get(key) ?? { all: 0, found: 0, exact: 0, single: 0 }
      tally.set(key, { all: row.all + 1, found: row.found + said.found, exact: row.exact + said.exact, single: row.single + said.single })
    }
  }
const sum = [...tally.values()].reduce((a, b) => ({
  all: a.all + b.all,
  found: a.found + b.found,
  exact: a.exact + b.exact,
  single: a.single + b.single,
}))
process.stdout.write('| slip | tried | found | on the exact line | one finding |\n| --- | --- | --- | --- | --- |\n')
for (const [key, row] of [...tally, ['all', sum]])
  process.stdout.write(`| ${key} | ${row.all} | ${row.found} | ${row.exact} | ${row.single} |\n`)
process.stdout.write(`\nFindings on the intact files: ${alarms}.\n`)
