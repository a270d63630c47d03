// How long a whole server of 1,500 settings files takes to be checked as Pasticcio does it, in threads, and after one edit.
// `node bench/check-server.mjs`, with the packages built.
import { readFileSync } from 'node:fs'
import { loadCore } from './core.mjs'

const say = (text) => process.stdout.write(`${text}\n`)
const FILES = 1500
const { Checkers, NO_KNOWLEDGE, checkAcross, itemRegistry, lookInto, makeServer, readFamily, markupOf, readingFor, seededRandom } =
  await loadCore('./packages/core/tests/well-formed.ts', './packages/standin/src/server/items.ts', './packages/check/src/checkers.ts')
const family = readFamily(readFileSync('families/archive.yml', 'utf8'))
const inputs = []
let letters = 0
for (let seed = 1; inputs.length < FILES; seed++) {
  const { files } = makeServer(seededRandom(seed))
  for (const [path, { mine, shipped }] of Object.entries(files)) {
    if (inputs.length === FILES) break
    inputs.push({
      path: path.replace('extras/', `extras/${seed}`),
      plugin: `${seed}${path.split('/')[1]}`,
      text: mine,
      factory: shipped,
      reading: readingFor(path, family),
    })
    letters += mine.length
  }
}
const lists = { items: new Set(itemRegistry().map(({ id }) => id)), places: new Set(['delta', 'upriver', 'saltpans', 'undertow']) }
const knowledge = { ...NO_KNOWLEDGE, lists, plugins: [], texts: markupOf(family) }
const work = { family, knowledge }

const checkers = new Checkers(async () => readFileSync('packages/check/dist/check-thread.cjs', 'utf8'))
async function whole() {
  const began = performance.now()
  const facts = new Map()
  const findings = []
  await checkers.look(inputs, knowledge, {
    done(files, looked) {
      files.forEach((file, i) => {
        findings.push(...looked[i].findings)
        if (looked[i].facts) facts.set(file.path, looked[i].facts)
      })
      return true
    },
    failed({ path }, error) {
      throw new Error(`${path}: ${error.message}`)
    },
  })
  findings.push(...checkAcross(work, facts))
  return { ms: performance.now() - began, facts, findings }
}
const first = await whole()
const second = await whole()
say(
  `${FILES} files, ${(letters / 1e6).toFixed(1)} million letters, ${first.findings.length} findings: ${(first.ms / 1000).toFixed(2)} s with the start of the threads, ${(second.ms / 1000).toFixed(2)} s after (aim 5 s)`,
)

const times = []
for (let i = 0; i < 40; i++) {
  const at = (i * 37) % FILES
  const file = { ...inputs[at], text: inputs[at].text.replace(/\d+/, (digits) => String(Number(digits) + 1)) }
  const began = performance.now()
  const looked = lookInto(file, knowledge)
  if (looked.facts) second.facts.set(file.path, looked.facts)
  checkAcross(work, second.facts)
  times.push(performance.now() - began)
}
times.sort((a, b) => a - b)
say(`after one edit: ${times[20].toFixed(1)} ms in the middle, ${times[37].toFixed(1)} ms for the slowest twentieth (aim 50 ms)`)
await checkers.close()
