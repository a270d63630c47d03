// How long the days of many players take to live, and what memory they hold: 60 streams, three kinds, two goals, over 30 days.
// `node bench/economy.mjs [players ...]`
import { loadCore } from './core.mjs'

const sizes = process.argv.length > 2 ? process.argv.slice(2).map(Number) : [1000, 10_000]
const { simulate } = await loadCore()
const print = (what, words) => process.stdout.write(`${what.padEnd(34)} ${words}\n`)
const streams = Array.from({ length: 60 }, (_x, i) => ({
  id: `stream-${i}`,
  name: `stream-${i}`,
  plugin: 'Purse',
  file: 'purse.yml',
  pointer: `/${i}`,
  way: i % 2 === 0 ? 'in' : 'out',
  amount: i === 58 ? 0.01 : 2 + (i % 17),
  isShare: i === 58,
  chance: i % 5 === 0 ? 0.3 : 1,
  cooldown: i % 4 === 0 ? 60 : null,
  limit: i % 9 === 0 ? 5 : null,
  isOnce: i === 0,
}))
const rates = Object.fromEntries(streams.map(({ id }, i) => [id, (i * 7) % 9]))
const kind = (name, players, hours) => ({ name, players, hours, joins: 1, balance: 500, rates })
const planOf = (players) => ({
  streams,
  kinds: [kind('newcomers', players * 0.3, 1), kind('regulars', players * 0.6, 2.4), kind('traders', players * 0.1, 3.2)],
  goals: [
    { name: 'boat', price: 4000 },
    { name: 'stall', price: 900 },
  ],
  days: 30,
  seed: 7700,
})

simulate({ ...planOf(100), days: 5 })
for (const players of sizes) {
  global.gc?.()
  const before = process.memoryUsage().heapUsed
  const began = performance.now()
  const run = simulate(planOf(players))
  const took = performance.now() - began
  const held = (process.memoryUsage().heapUsed - before) / 2 ** 20
  print(
    `${players} players, 30 days`,
    `${(took / 1000).toFixed(2)} s, ${run.days.length} days kept, ${held.toFixed(1)} MB more than before`,
  )
}
