import { readFileSync } from 'node:fs'
import { readFamily } from '@pasticcio/core'
import { describe, expect, it } from 'vitest'
import { consoles, openConsole } from '../../server/consoles'
import { consoleContract } from './console-contract'
import { EchoConsole, echoDriver } from './toys/echo-console'
import { makeWorld } from './world'

const family = readFamily(readFileSync('families/archive.yml', 'utf8'))

consoleContract('process', async () => {
  const world = await makeWorld()
  const { console } = await world.server()
  return { console, ask: 'plugins', answer: /Purse/, close: () => void world.close() }
})

consoleContract('echo (the toy)', async () => ({
  console: new EchoConsole(family, 'far-away'),
  ask: 'hello',
  answer: /^far-away heard hello/,
  close: () => undefined,
}))

describe('the list of consoles', () => {
  it('opens what a connection names, once that is registered', () => {
    const settings = { type: 'echo', name: 'far-away' }
    expect(() => openConsole(settings, family)).toThrow('Known are process')
    const forget = consoles.register(echoDriver as never)
    expect(openConsole(settings, family).lifecycle).toBeNull()
    expect(() => openConsole({ type: 'echo' }, family)).toThrow('name is a required field')
    forget()
  })

  it('a program that ends at once is told with its reason', async () => {
    const settings = { type: 'process', folder: '/tmp', command: [process.execPath, '-e', 'process.exit(3)'] }
    const console = openConsole(settings as { type: string }, family)
    await expect(console.lifecycle!.start()).rejects.toMatchObject({
      code: 'did-not-start',
      message: expect.stringContaining('code 3') as unknown,
    })
    expect(console.state.status).toBe('failed')
  })
})
