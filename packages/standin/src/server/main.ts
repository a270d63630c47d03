import { createInterface } from 'node:readline'
import { parseArgs } from 'node:util'
import { ServerConsole } from './console'
import { GameServer } from './game-server'

const started = performance.now()
const out = new ServerConsole(
  (line) => void process.stdout.write(line + '\n'),
  () => new Date(),
)
const { values } = parseArgs({ options: { profile: { type: 'string' } }, strict: false })
const profile = typeof values.profile === 'string' ? { profile: values.profile } : {}
const server = new GameServer(process.cwd(), out, Math.random, () => (performance.now() - started) / 1000, profile)
server.start()
const timer = setInterval(() => server.tick(), 5000)

function stop(): void {
  clearInterval(timer)
  out.line('info', 'stopped')
  process.exit(0)
}
createInterface({ input: process.stdin })
  .on('line', (line) => {
    if (!server.command(line)) stop()
  })
  .on('close', stop)
process.on('SIGTERM', stop)
