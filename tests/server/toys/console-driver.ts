/*
 * A Pasticcio that starts a game server and is then killed: `console-driver FOLDER PROGRAM …` starts it, says so, and
 * waits.
 */
import { readFileSync } from 'node:fs'
import { readFamily } from '@pasticcio/core'
import { openConsole } from '../../../server/consoles'

const [folder, ...command] = process.argv.slice(2)
const family = readFamily(readFileSync('families/archive.yml', 'utf8'))
const console = openConsole({ type: 'process', folder, command } as { type: string }, family)
await console.lifecycle!.start()
process.stdout.write('started\n')
setInterval(() => undefined, 1000)
