// A server with 300 plugins and 1,500 settings files: looking at it the first time and the second, what that holds in memory
// and asks of the database; and what measuring how it runs costs. `node bench/inventory.mjs [plugins] [files of each]`
import { mkdirSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { loadCore } from './core.mjs'

const say = (text) => process.stdout.write(`${text}\n`)
const PLUGINS = Number(process.argv[2] ?? 300)
const FILES = Number(process.argv[3] ?? 5)
const { makeWorld, repacked, overviewOf, houseOf, LoadSampler } = await loadCore(
  './server/services/overview.ts',
  './server/services/house.ts',
  './server/services/sampler.ts',
  './tests/server/world.ts',
)

const world = await makeWorld()
const source = world.pack('purse-1.8')
rmSync(world.path('extras'), { recursive: true })
mkdirSync(world.path('extras'))
const settingsOf = (n, file) => {
  const section = (i) => `# What part ${i} does.\npart-${i}:\n  # seconds\n  every: ${i + n}\n  name: "part ${i} of ${n}"\n  on: true\n`
  return `# Settings ${file} of plugin ${n}\n${Array.from({ length: 8 }, (_, i) => section(i)).join('\n')}`
}
for (let n = 0; n < PLUGINS; n++) {
  const name = `Plugin${n}`
  const defaults = Object.fromEntries(Array.from({ length: FILES }, (_, i) => [`part${i}.yml`, settingsOf(n, i)]))
  const pack = repacked(source, () => ({
    'pack.yml': `name: ${name}\nversion: 1.0.0\ngame: "*"\n`,
    'behaviour.yml': 'kind: answers\nreads: {}\n',
    ...Object.fromEntries(Object.entries(defaults).map(([file, text]) => [`defaults/${file}`, text])),
  }))
  writeFileSync(world.path(`extras/${name}.pack`), pack)
  mkdirSync(world.path(`extras/${name}`))
  for (const [file, text] of Object.entries(defaults))
    writeFileSync(join(world.path(`extras/${name}`), file), n % 3 === 0 ? text.replace('on: true', 'on: false') : text)
}

const server = await world.server()
let queries = 0
world.context.db.on('query', () => queries++)
async function timed(work) {
  const from = performance.now()
  const asked = queries
  const result = await work()
  return { ms: performance.now() - from, queries: queries - asked, result }
}
const held = () => (globalThis.gc?.(), process.memoryUsage().rss / 1024 / 1024)

const before = held()
const first = await timed(() => overviewOf(world.context, server))
const after = held()
const again = []
for (let i = 0; i < 5; i++) again.push(await timed(() => overviewOf(world.context, server)))
again.sort((a, b) => a.ms - b.ms)
const second = again[2]
await server.inventory.remember()
const third = await timed(() => overviewOf(world.context, server))
const house = await timed(() => houseOf(world.context))
const files = first.result.plugins.reduce((sum, plugin) => sum + plugin.files.length, 0)

// a sampler hears a second's worth of a busy console, with and without it
const lines = Array.from({ length: 200_000 }, (_, i) => ({
  seq: i,
  time: '',
  level: 'info',
  text: 'x',
  event: i % 100 === 0 ? { type: 'state', players: 4, ticks: 20, memory: 400 } : null,
}))
const heard = { state: { status: 'running' }, askTimes: () => undefined, listen: ({ line }) => ((heard.line = line), () => undefined) }
const hear = (tell) => {
  const from = performance.now()
  for (const line of lines) tell(line)
  return performance.now() - from
}
const alone = hear(() => undefined)
const sampler = new LoadSampler(heard, world.context.samples, {
  serverId: server.row.id,
  everySeconds: 3600,
  now: () => new Date(),
  failed: say,
})
const sampled = hear(heard.line)
const kept = await timed(() => sampler.keep())
sampler.close()

say(`${first.result.plugins.length} plugins, ${files} settings files`)
say(`first look     ${first.ms.toFixed(0)} ms, ${first.queries} queries (aim 1000 ms)`)
say(`second look    ${second.ms.toFixed(0)} ms, ${second.queries} queries (aim 100 ms), ${(first.ms / second.ms).toFixed(1)} times faster`)
say(
  `once remembered ${third.ms.toFixed(0)} ms, ${third.queries} queries; with all that the page of servers shows ${house.ms.toFixed(0)} ms`,
)
say(`memory         ${before.toFixed(0)} MB before, ${after.toFixed(0)} MB after`)
say(
  `sampler        ${((1000 * (sampled - alone)) / lines.length).toFixed(3)} µs a console line; ${kept.ms.toFixed(1)} ms and ${kept.queries} queries a minute`,
)
await world.close()
process.exit(0)
