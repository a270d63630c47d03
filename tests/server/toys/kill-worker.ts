/*
 * A process of its own that applies what is staged in a world, takes a change back, or settles what was interrupted, and
 * kills itself at one moment of it: `kill-worker FOLDER apply|undo|settle MOMENT`. Moments are counted at everything
 * that is recorded or done to a file, before it and after it. Without being killed it says how many there were.
 */
import { settle } from '../../../server/services/recovery'
import { undoApply } from '../../../server/services/undo'
import { applyAll, openWorld } from '../world'

const [folder, work, moment] = process.argv.slice(2) as [string, 'apply' | 'undo' | 'settle', string]
let count = 0
function tick(): void {
  if (++count === Number(moment)) process.kill(process.pid, 'SIGKILL')
}

/** Counts before and after each of some methods. */
function counted<T extends object>(target: T, names: readonly (keyof T)[]): void {
  for (const name of names) {
    const method = target[name] as unknown as (...all: unknown[]) => Promise<unknown>
    Object.assign(target, {
      [name]: async (...all: unknown[]) => {
        tick()
        const result = await method.apply(target, all)
        tick()
        return result
      },
    })
  }
}

const world = await openWorld(folder)
const { context } = world
const server = await world.server()
counted(context.applies, ['begin', 'step', 'end', 'setFiles'])
counted(context.record, ['add'])
counted(server.place, ['stage', 'commit', 'remove', 'discard', 'release', 'sweep'])
if (work === 'apply') await applyAll(world)
if (work === 'undo') await undoApply(context, server, (await context.applies.list(server.row.id))[0]!.id, 'tobiah')
if (work === 'settle') await settle(context, server)
await world.leave()
process.stdout.write(String(count))
