import { createServer, type Server as HttpServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { readdirSync } from 'node:fs'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { gzipSync } from 'node:zlib'
import { addFromLink } from '../../server/services/downloads'
import { SiteOffers } from '../../server/services/sites'
import { SIZES } from '../../server/services/sizes'
import { makeWorld, sitesAt, type World } from './world'

describe('a plugin site', () => {
  let world: World
  let site: HttpServer
  let origin = ''
  const good = { name: 'Signboard', version: '1.0.0', link: '/s.pack' }
  const answers: Record<string, (end: (body: string | Buffer, headers?: Record<string, string>) => void, cut: () => void) => void> = {
    '/index.json': (end) =>
      end(
        JSON.stringify([
          good,
          { name: 'No link', version: '1' },
          5,
          null,
          { ...good, link: 'http://[' },
          { ...good, name: 'Gangway', summary: 'Boats' },
        ]),
      ),
    '/s.pack': (end) => end(world.pack('purse-1.8')),
    '/huge.pack': (end) => end('x', { 'content-length': String(SIZES.package + 1) }),
    '/cut.pack': (_end, cut) => cut(),
    // small on the way, and large when it is unpacked
    '/bomb.pack': (end) => end(gzipSync(Buffer.alloc(SIZES.package + 1024)), { 'content-encoding': 'gzip' }),
  }
  beforeAll(async () => {
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
    world = await makeWorld({ context: { sites: [origin, 'http://127.0.0.1:1'] } })
  })
  afterAll(async () => {
    site.closeAllConnections()
    site.close()
    await world.close()
  })

  it('offers what is right in its list, whatever else stands there', async () => {
    const ranges = { requires: {}, optional: {}, conflicts: {}, companions: {} }
    const plain = {
      ...ranges,
      game: '',
      family: '',
      authors: [],
      size: null,
      sha256: null,
      changelog: '',
      readme: '',
      link: `${origin}/s.pack`,
    }
    const outside = { id: null, mayBePrivate: true, addedBy: '' }
    expect(await world.context.offers.list(5000)).toEqual([
      {
        ...outside,
        address: origin,
        status: 'answered',
        problem: '',
        passedOver: 4,
        offers: [
          { ...plain, name: 'Signboard', version: '1.0.0', summary: '' },
          { ...plain, name: 'Gangway', version: '1.0.0', summary: 'Boats' },
        ],
      },
      {
        ...outside,
        address: 'http://127.0.0.1:1',
        status: 'failed',
        problem: expect.stringContaining('did not answer') as unknown,
        passedOver: 0,
        offers: [],
      },
    ])
  })

  it('one that never answers, or answers with a list that unpacks to too much, holds nobody', async () => {
    const hanging = createServer(() => undefined)
    const bomb = createServer((_request, response) => {
      response.writeHead(200, { 'content-encoding': 'gzip' }).end(gzipSync(Buffer.alloc(SIZES.siteList + 1024, ' ')))
    })
    for (const server of [hanging, bomb]) await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
    const [slow, large] = [hanging, bomb].map((server) => `http://127.0.0.1:${(server.address() as AddressInfo).port}`) as [string, string]
    const offers = new SiteOffers(sitesAt(slow, large, origin), world.context.log)
    const states = await offers.list(2000)
    expect(states.map(({ status }) => status)).toEqual(['asking', 'failed', 'answered'])
    expect(states[1]!.problem).toContain('over 4 MB')
    expect(states[2]!.offers).toHaveLength(2)
    // what is known is given at once, and nobody is asked twice
    const from = performance.now()
    await offers.list(0)
    expect(performance.now() - from).toBeLessThan(1000)
    for (const server of [hanging, bomb]) server.closeAllConnections()
    for (const server of [hanging, bomb]) server.close()
  })

  it('gives a package by its link', async () => {
    expect((await addFromLink(world.context, await world.server(), { link: `${origin}/s.pack` }, 'maren'))[0]!.info.name).toBe('Purse')
  })

  it.each([
    ['/none.pack', 'bad-link', 'answered 404'],
    ['/cut.pack', 'bad-link', 'did not answer'],
    ['/huge.pack', 'too-large', 'over 64 MB'],
    ['/bomb.pack', 'too-large', 'over 64 MB'],
  ])('%s is told as %s', async (path, code, words) => {
    await expect(addFromLink(world.context, await world.server(), { link: origin + path }, 'maren')).rejects.toMatchObject({
      code,
      message: expect.stringContaining(words) as unknown,
    })
    expect(readdirSync(world.context.scratch)).toEqual([])
  })
})
