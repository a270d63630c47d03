import { createHash } from 'node:crypto'
import { readdirSync } from 'node:fs'
import { createServer, type IncomingMessage, type Server as HttpServer, type ServerResponse } from 'node:http'
import type { AddressInfo } from 'node:net'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { Server } from '../../server/services/context'
import { addFromLink, type Download } from '../../server/services/downloads'
import { isPrivate } from '../../server/services/fetching'
import { addSite, privateHosts, removeSite, sitesOf } from '../../server/services/plugin-sites'
import { makeWorld, type World } from './world'

let world: World
let server: Server
let site: HttpServer
let origin = ''
type Handler = (response: ServerResponse, request: IncomingMessage) => void
let handlers: Record<string, Handler>
const sha = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex')

beforeEach(async () => {
  handlers = {}
  site = createServer((request, response) => {
    const handler = handlers[request.url ?? '']
    if (handler) handler(response, request)
    else response.writeHead(404).end()
  })
  await new Promise<void>((resolve) => site.listen(0, '127.0.0.1', resolve))
  origin = `http://127.0.0.1:${(site.address() as AddressInfo).port}`
  world = await makeWorld()
  server = await world.server()
})
afterEach(async () => {
  site.closeAllConnections()
  site.close()
  await world.close()
})
const add = (mayBePrivate = true) => addSite(world.context, origin, mayBePrivate, 'maren')
const fetched = (path: string, sha256?: string) =>
  addFromLink(world.context, server, { link: path.startsWith('http') ? path : origin + path, ...(sha256 ? { sha256 } : {}) }, 'maren')
const nothingKept = async (): Promise<void> => {
  expect(readdirSync(world.context.scratch)).toEqual([])
  expect(await world.context.packages.list('archive')).toEqual([])
}

describe('addresses of one’s own network', () => {
  it.each([
    ['127.0.0.1', true],
    ['10.1.2.3', true],
    ['172.16.0.1', true],
    ['192.168.1.1', true],
    ['169.254.169.254', true],
    ['100.64.0.1', true],
    ['0.0.0.0', true],
    ['224.0.0.1', true],
    ['::1', true],
    ['fe80::1', true],
    ['fd00::1', true],
    ['::ffff:127.0.0.1', true],
    ['::ffff:8.8.8.8', false],
    ['8.8.8.8', false],
    ['2606:4700::1111', false],
  ])('%s: %s', (address, expected) => {
    expect(isPrivate(address)).toBe(expected)
  })

  it('are not asked, however they are called, unless an owner allowed that very host', async () => {
    handlers['/p.pack'] = (response) => response.end(world.pack('purse-1.8'))
    const { port } = site.address() as AddressInfo
    for (const host of ['127.0.0.1', 'localhost', '[::ffff:127.0.0.1]', '2130706433', '0x7f.1'])
      await expect(fetched(`http://${host}:${port}/p.pack`), host).rejects.toMatchObject({ code: 'private-address', status: 403 })
    await add(false)
    await expect(fetched('/p.pack')).rejects.toMatchObject({ code: 'private-address' })
    await nothingKept()
    const [row] = await world.context.siteRows.list()
    await removeSite(world.context, row!.id!, 'maren')
    await add()
    expect((await fetched('/p.pack'))[0]!.info.name).toBe('Purse')
    // another port is another host
    expect((await privateHosts(world.context))(`127.0.0.1:${port + 1}`)).toBe(false)
  })

  it('are not reached by being led there', async () => {
    handlers['/away.pack'] = (response) => response.writeHead(302, { location: 'http://10.255.255.1/x.pack' }).end()
    await add()
    await expect(fetched('/away.pack')).rejects.toMatchObject({ code: 'private-address' })
  })
})

describe('where a link leads', () => {
  beforeEach(() => add())
  it('is followed a few times, and to nothing but the web', async () => {
    handlers['/p.pack'] = (response) => response.end(world.pack('purse-1.8'))
    for (let n = 1; n <= 4; n++)
      handlers[`/${n}`] = (response) => response.writeHead(301, { location: n === 1 ? '/p.pack' : `/${n - 1}` }).end()
    handlers['/file'] = (response) => response.writeHead(302, { location: 'file:///etc/passwd' }).end()
    expect((await fetched('/3'))[0]!.info.name).toBe('Purse')
    await expect(fetched('/4')).rejects.toMatchObject({ code: 'bad-link', message: expect.stringContaining('leads on and on') as unknown })
    await expect(fetched('/file')).rejects.toMatchObject({ code: 'bad-link' })
    for (const link of ['file:///etc/passwd', 'ftp://127.0.0.1/x', 'http://a:b@127.0.0.1/x', 'nonsense'])
      await expect(addFromLink(world.context, server, { link }, 'maren'), link).rejects.toMatchObject({ code: 'bad-link' })
  })

  it('is told when it is a page', async () => {
    handlers['/page'] = (response) => response.end('\n<!DOCTYPE html><html><a href="/p.pack">download</a></html>')
    await expect(fetched('/page')).rejects.toMatchObject({ code: 'bad-link', message: expect.stringContaining('is a web page') as unknown })
    await nothingKept()
  })
})

describe('a file that should be another', () => {
  it('is refused by its hash or its size, and nothing of it is kept', async () => {
    const bytes = world.pack('purse-1.8')
    const offer = { name: 'Purse', version: '1.8.0', link: '/p.pack' }
    let said: object = { ...offer, sha256: sha(bytes).toUpperCase(), size: bytes.length }
    handlers['/index.json'] = (response) => response.end(JSON.stringify({ packages: [said] }))
    handlers['/p.pack'] = (response) => response.end(bytes)
    const asked = async (): Promise<void> => {
      world.context.offers.forget(origin)
      const [state] = await world.context.offers.list(5000)
      expect(state).toMatchObject({ status: 'answered', passedOver: 0 })
    }
    await add()
    await asked()
    said = { ...offer, sha256: '0'.repeat(64) }
    await asked()
    await expect(fetched('/p.pack')).rejects.toMatchObject({ code: 'wrong-hash', message: expect.stringContaining('SHA-256') as unknown })
    said = { ...offer, size: bytes.length + 1 }
    await asked()
    await expect(fetched('/p.pack')).rejects.toMatchObject({
      code: 'wrong-hash',
      message: expect.stringContaining(`${bytes.length} bytes`) as unknown,
    })
    said = offer
    await asked()
    await expect(fetched('/p.pack', 'f'.repeat(64))).rejects.toMatchObject({ code: 'wrong-hash' })
    await nothingKept()
    expect(await fetched('/p.pack', sha(bytes))).toHaveLength(1)
  })
})

describe('a download that is watched', () => {
  const over = async (id: string): Promise<Download> => {
    await expect.poll(() => world.context.downloads.get(server, id).status, { timeout: 10_000 }).not.toMatch(/fetching|reading/)
    return world.context.downloads.get(server, id)
  }
  beforeEach(() => add())

  it('tells how far it is, and what came of it', async () => {
    const bytes = world.pack('purse-1.8')
    let goOn = (): void => undefined
    handlers['/p.pack'] = (response) => {
      response.writeHead(200, { 'content-length': bytes.length }).write(bytes.subarray(0, 500))
      goOn = () => response.end(bytes.subarray(500))
    }
    const { id } = world.context.downloads.start(world.context, server, { link: `${origin}/p.pack` }, 'maren')
    await expect.poll(() => world.context.downloads.get(server, id)).toMatchObject({ status: 'fetching', bytes: 500, size: bytes.length })
    goOn()
    expect(await over(id)).toMatchObject({ status: 'done', bytes: bytes.length, packages: [{ name: 'Purse', version: '1.8.0' }] })
  })

  it('is given up when it is cancelled: the other side sees it, and nothing is kept', async () => {
    let closed = false
    handlers['/slow.pack'] = (response) => {
      response.on('close', () => (closed = true))
      response.writeHead(200, { 'content-length': 100_000 }).write('PK')
    }
    const { id } = world.context.downloads.start(world.context, server, { link: `${origin}/slow.pack` }, 'maren')
    await expect.poll(() => world.context.downloads.get(server, id).bytes).toBe(2)
    world.context.downloads.cancel(server, id)
    expect(await over(id)).toMatchObject({ status: 'cancelled', code: 'cancelled', problem: 'It was cancelled, and nothing was kept.' })
    await expect.poll(() => closed).toBe(true)
    await nothingKept()
  })

  it('says what is wrong, and of many only some go on at once', async () => {
    handlers['/hang'] = (response) => response.writeHead(200).write('x')
    const failed = world.context.downloads.start(world.context, server, { link: `${origin}/none` }, 'maren')
    expect(await over(failed.id)).toMatchObject({
      status: 'failed',
      code: 'bad-link',
      problem: expect.stringContaining('answered 404') as unknown,
    })
    const start = () => world.context.downloads.start(world.context, server, { link: `${origin}/hang` }, 'maren')
    const running = Array.from({ length: 6 }, start)
    expect(start).toThrow(expect.objectContaining({ code: 'busy', status: 429 }))
    for (const { id } of running) world.context.downloads.cancel(server, id)
    for (const { id } of running) await over(id)
    expect(() => world.context.downloads.get(server, 'nobody')).toThrow(expect.objectContaining({ code: 'not-found' }))
  })
})

describe('plugin sites', () => {
  it.each([
    'plugins.example',
    'ftp://plugins.example',
    'https://a:b@plugins.example',
    'https://plugins.example/?x=1',
    'https://plugins.example/#x',
  ])('%s is none', async (address) => {
    await expect(addSite(world.context, address, false, 'maren')).rejects.toMatchObject({ code: 'bad-link' })
  })

  it('are added by where their list is, each once, and removed again; their packages stay', async () => {
    handlers['/delta/index.json'] = (response) => response.end(JSON.stringify([{ name: 'A', version: '1', link: 'files/a.pack' }]))
    handlers['/delta/files/a.pack'] = (response) => response.end(world.pack('purse-1.8'))
    await addSite(world.context, `${origin}/delta/index.json`, true, 'maren')
    await expect(addSite(world.context, `${origin}/delta/`, true, 'maren')).rejects.toMatchObject({ code: 'name-taken' })
    const [site] = await sitesOf(world.context)
    expect(site).toMatchObject({ address: `${origin}/delta`, mayBePrivate: true, addedBy: 'maren' })
    const [state] = await world.context.offers.list(5000)
    expect(state!.offers[0]!.link).toBe(`${origin}/delta/files/a.pack`)
    await fetched(state!.offers[0]!.link)
    await removeSite(world.context, site!.id!, 'maren')
    expect([await sitesOf(world.context), (await world.context.packages.list('archive')).length]).toEqual([[], 1])
    await expect(removeSite(world.context, 99, 'maren')).rejects.toMatchObject({ code: 'not-found' })
  })
})
