import { createServer, type Server as HttpServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { addFromLink, listSites } from '../../server/services/pantry'
import { SIZES } from '../../server/services/sizes'
import { makeWorld, type World } from './world'

describe('a plugin site', () => {
  let world: World
  let site: HttpServer
  let origin = ''
  const good = { name: 'Signboard', version: '1.0.0', link: '/s.pack' }
  const answers: Record<string, (end: (body: string | Buffer, headers?: Record<string, string>) => void, cut: () => void) => void> = {
    '/index.json': (end) =>
      end(JSON.stringify([good, { name: 'No link', version: '1' }, 5, null, { ...good, name: 'Gangway', summary: 'Boats' }])),
    '/s.pack': (end) => end(world.pack('purse-1.8')),
    '/huge.pack': (end) => end('x', { 'content-length': String(SIZES.package + 1) }),
    '/cut.pack': (_end, cut) => cut(),
  }
  beforeAll(async () => {
    world = await makeWorld()
    site = createServer((request, response) => {
      const answer = answers[request.url ?? '']
      if (!answer) return void response.writeHead(404).end()
      answer(
        (body, headers = {}) => response.writeHead(200, headers).end(body),
        () => response.writeHead(200, { 'content-length': '999' }).write('half', () => response.destroy()),
      )
    })
    await new Promise<void>((resolve) => site.listen(0, '127.0.0.1', resolve))
    origin = `http://127.0.0.1:${(site.address() as AddressInfo).port}`
    ;(world.context.sites as string[]).push(origin, 'http://127.0.0.1:1')
  })
  afterAll(async () => {
    site.closeAllConnections()
    site.close()
    await world.close()
  })

  it('offers what is right in its list, whatever else stands there; one that is down offers nothing', async () => {
    expect(await listSites(world.context)).toEqual([
      { name: 'Signboard', version: '1.0.0', summary: '', game: '', link: `${origin}/s.pack` },
      { name: 'Gangway', version: '1.0.0', summary: 'Boats', game: '', link: `${origin}/s.pack` },
    ])
  })

  it('gives a package by its link', async () => {
    expect((await addFromLink(world.context, await world.server(), `${origin}/s.pack`, 'maren')).info.name).toBe('Purse')
  })

  it.each([
    ['/none.pack', 'bad-link', 'answered 404'],
    ['/cut.pack', 'bad-link', 'did not answer'],
    ['/huge.pack', 'too-large', 'over 64 MB'],
  ])('%s is told as %s', async (path, code, words) => {
    await expect(addFromLink(world.context, await world.server(), origin + path, 'maren')).rejects.toMatchObject({
      code,
      message: expect.stringContaining(words) as unknown,
    })
  })
})
