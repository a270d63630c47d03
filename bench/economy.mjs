// How long the days of many players take to live in a worker, and what memory it holds: 60 streams, three kinds, two goals, over 30 days.
// `node bench/economy.mjs [players ...]`
import { Worker, isMainThread, parentPort, workerData } from 'node:worker_threads'
import { fileURLToPath } from 'node:url'
import { loadCore } from './core.mjs'

const streams = Array.from({ length: 60 }, (_x, i) => ({
  id: `stream-${i}`,
  activity: `stream-${i}`,
  way: i % 2 === 0 ? 'in' : 'out',
  amount: i === 58 ? 0.01 : 2 + (i % 17),
  isShare: i === 58,
  most: null,
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

async function live() {
  const { simulate } = await loadCore()
  simulate({ ...planOf(100), days: 5 })
  const before = process.memoryUsage()
  let most = 0
  const began = performance.now()
  const run = simulate(planOf(workerData), () => {
    most = Math.max(most, process.memoryUsage().heapUsed + process.memoryUsage().arrayBuffers)
    return true
  })
  const held = (most - before.heapUsed - before.arrayBuffers) / 2 ** 20
  parentPort.postMessage({ seconds: (performance.now() - began) / 1000, days: run.days.length, held })
}

async function measure() {
  const sizes = process.argv.length > 2 ? process.argv.slice(2).map(Number) : [1000, 10_000]
  for (const players of sizes) {
    const worker = new Worker(fileURLToPath(import.meta.url), { workerData: players })
    const told = await new Promise((resolve, reject) => worker.once('message', resolve).once('error', reject))
    await worker.terminate()
    process.stdout.write(
      `${`${players} players, 30 days`.padEnd(34)} ${told.seconds.toFixed(2)} s, ${told.days} days, at most ${Math.max(0, told.held).toFixed(0)} MB more than before\n`,
    )
  }
}

await (isMainThread ? measure() : live())
