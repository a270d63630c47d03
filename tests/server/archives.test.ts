import { Archive } from '@pasticcio/unpack'
import { unzipSync } from 'fflate'
import fc from 'fast-check'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { readFamily, type PackageInfo } from '@pasticcio/core'
import { readFileSync } from 'node:fs'
import { ServiceError } from '../../server/services/errors'
import { SIZES } from '../../server/services/sizes'
import { Unpacker } from '../../server/services/unpacker'
import { addPackage, makeWorld, planFor, repacked, type World } from './world'
import { zip, type Member } from './zip'

const family = readFamily(readFileSync('families/archive.yml', 'utf8'))
const text = (value: string): Buffer => Buffer.from(value, 'utf8')
const zeros = (megabytes: number): Buffer => Buffer.alloc(megabytes * 1024 * 1024)
const described: Member = { name: 'pack.yml', data: text('name: Eel\nversion: 1.0\n') }
const thread = async (): Promise<string> => readFileSync('packages/unpack/dist/thread.cjs', 'utf8')
const LINK = (0o120777 << 16) >>> 0

/** Archives that would cost more than they should, or put files where they do not belong, and what is said of each. */
const TABLE: readonly (readonly [what: string, members: () => readonly Member[], reason: RegExp])[] = [
  ['one that unpacks to 1,000 times its size', () => [described, { name: 'a', data: zeros(60) }], /would unpack to \d+ times its size/],
  ['one of 300 MB', () => [described, ...[1, 2, 3, 4, 5, 6].map((n) => ({ name: `${n}`, data: zeros(50) }))], /unpack to 300 MB/],
  [
    'a file too large',
    () => [described, { name: 'a', data: text('x'), claims: { size: 80 * 1024 * 1024 } }],
    /80 MB, and 64 MB are the most/,
  ],
  ['a file larger than it says', () => [described, { name: 'a', data: zeros(3), claims: { size: 10 } }], /a in it is damaged/],
  ['a file smaller than it says', () => [described, { name: 'a', data: text('x'), claims: { size: 10 } }], /a in it is damaged/],
  ['too many files', () => Array.from({ length: 4001 }, (_x, i) => ({ name: `f${i}` })), /4001 files, and 4000 are the most/],
  [
    'files that share their data',
    () => [described, { name: 'a', data: zeros(1) }, { name: 'b', data: zeros(1), sharesWith: 1 }],
    /shares its data/,
  ],
  ['a check sum that is not right', () => [{ ...described, claims: { crc: 5 } }], /pack.yml in it is damaged: its check sum/],
  [
    'damage in a file nobody asks for',
    () => [described, { name: 'art.png', data: text('x'), claims: { crc: 5 } }],
    /art.png in it is damaged/,
  ],
  ['a file twice', () => [described, { name: 'a' }, { name: 'a' }], /a twice/],
  [
    'files that differ by capitals',
    () => [described, { name: 'defaults/Eel.yml' }, { name: 'defaults/eel.yml' }],
    /both .*Eel.yml and .*eel.yml/,
  ],
  ['files that differ by how a letter is written', () => [described, { name: 'é' }, { name: 'e\u0301' }], /both/],
  ['a file where a folder is', () => [described, { name: 'a', data: text('x') }, { name: 'a/b' }], /a in it is a file/],
  ['a way out', () => [described, { name: '../start.sh' }], /not an archive|leads out/],
  ['a way out in the middle', () => [described, { name: 'defaults/x/../../Other.pack.yml' }], /not an archive|leads out/],
  ['a full path', () => [described, { name: '/etc/x.yml' }], /not an archive/],
  ['a path of another system', () => [described, { name: 'defaults\\..\\x.yml' }], /not an archive/],
  ['a name with a line end', () => [described, { name: 'a\nb' }], /cannot be seen/],
  ['a link', () => [described, { name: 'defaults/x.yml', data: text('/etc/passwd'), attributes: LINK }], /is a link/],
  ['an encrypted file', () => [described, { name: 'a', data: text('x'), flags: 0x801 }], /encrypted/],
  ['an unknown way of packing', () => [described, { name: 'a', data: text('x'), method: 93 }], /not known here|damaged/],
  ['no description', () => [{ name: 'readme', data: text('x') }], /holds no pack.yml/],
  [
    'a description too large',
    () => [{ name: 'pack.yml', data: text('name: x\n' + '# filler\n'.repeat(130_000)) }],
    /too large to be a description/,
  ],
  ['a description that is no text', () => [{ name: 'pack.yml', data: Buffer.from([0xff, 0xfe, 0]) }], /not UTF-8/],
  ['a plugin’s name that is a path', () => [{ name: 'pack.yml', data: text('name: ../Eel\nversion: 1\n') }], /cannot be a file name/],
]

describe('archives', () => {
  const unpacker = new Unpacker(thread)
  const describeOne = async (...args: Parameters<Unpacker['packages']>): Promise<PackageInfo> => (await unpacker.packages(...args))[0]!.info
  afterAll(() => unpacker.close())

  it.each(TABLE)('%s are refused, with the reason', async (_what, members, reason) => {
    const bytes = zip(members())
    await expect(describeOne(bytes, family, 'eel.pack')).rejects.toMatchObject({
      code: 'bad-package',
      status: 422,
      message: expect.stringMatching(reason) as unknown,
    })
  })

  it.each([
    ['nothing', Buffer.alloc(0)],
    ['no archive', text('hello')],
    ['half of one', zip([described]).subarray(0, 60)],
    ['the end of one alone', zip([described]).subarray(-22)],
  ])('%s is no package', async (_what, bytes) => {
    await expect(describeOne(bytes, family, 'eel.pack')).rejects.toMatchObject({ code: 'bad-package' })
  })

  it('versions stay as they are written', async () => {
    for (const version of ['1.0', '1.10', '2', '0x10', '1e3', '"1.0"'].map((written) => [written, written.replaceAll('"', '')] as const))
      expect((await describeOne(zip([{ name: 'pack.yml', data: text(`name: Eel\nversion: ${version[0]}\n`) }]), family, 'e')).version).toBe(
        version[1],
      )
  })

  it('a file of another encoding among the settings is left out, and the rest is there', async () => {
    const members = [described, { name: 'defaults/a.yml', data: text('a: 1\n') }, { name: 'defaults/b.yml', data: Buffer.from([0xe9]) }]
    expect((await describeOne(zip(members), family, 'e')).defaults).toEqual({ 'a.yml': 'a: 1\n' })
  })

  it('says what an independent reader says of honest ones', async () => {
    const name = fc.stringMatching(/^[a-z]{1,8}(\/[a-z]{1,8})?$/)
    const member = fc.record({ name, data: fc.uint8Array({ maxLength: 300 }), method: fc.constantFrom(0, 8) })
    await fc.assert(
      fc.asyncProperty(fc.uniqueArray(member, { maxLength: 8, selector: ({ name: own }) => own.split('/')[0] }), async (members) => {
        const bytes = zip(members)
        const archive = await Archive.open(bytes, SIZES.archive)
        const others = unzipSync(bytes)
        expect(archive.names.sort()).toEqual(Object.keys(others).sort())
        for (const own of archive.names) expect(new Uint8Array((await archive.read(own))!)).toEqual(others[own])
      }),
      { numRuns: 60 },
    )
  })

  it('never does more than refuse, whatever bytes are changed', async () => {
    const honest = zip([described, { name: 'defaults/a.yml', data: text('a: 1\n'.repeat(50)) }])
    await fc.assert(
      fc.asyncProperty(fc.array(fc.tuple(fc.nat(honest.length - 1), fc.nat(255)), { minLength: 1, maxLength: 6 }), async (changes) => {
        const bytes = Buffer.from(honest)
        for (const [at, value] of changes) bytes[at] = value
        await describeOne(bytes, family, 'e').catch((error: unknown) => expect(error).toMatchObject({ code: 'bad-package' }))
      }),
      { numRuns: 300 },
    )
  })

  it('opens several in one go, each with what is said of it alone', async () => {
    const members = (name: string): Member[] => [{ name: 'pack.yml', data: text(`name: ${name}\nversion: 1.0\n`) }]
    const downloads = [
      { fileName: 'eel.pack', bytes: zip(members('Eel')) },
      ...TABLE.map(([, damaged], index) => ({ fileName: `${index}.pack`, bytes: zip(damaged()) })),
      { fileName: 'ibis.pack', bytes: zip(members('Ibis')) },
    ]
    const found = (await unpacker.several(downloads, family)).map((item) =>
      item instanceof ServiceError ? item.message : item.map(({ info }) => info.name),
    )
    expect([found[0], found.at(-1)]).toEqual([['Eel'], ['Ibis']])
    TABLE.forEach(([, , reason], index) => expect(found[index + 1]).toMatch(reason))
    expect(await unpacker.several([], family)).toEqual([])
  })

  it('opens each alone where together they cost the thread too much', async () => {
    const fragile = new Unpacker(
      async () => `require('worker_threads').parentPort.on('message', ({ id, request: { downloads } }) => {
        if (downloads.length > 1 || downloads[0].fileName === 'worst') for (const all = []; ; ) all.push('x'.repeat(1e6) + all.length)
        const result = { kind: 'packages', downloads: [{ kind: 'refused', reason: 'opened alone' }] }
        require('worker_threads').parentPort.postMessage({ id, result })
      })`,
    )
    const named = (fileName: string) => ({ fileName, bytes: Buffer.alloc(1) })
    const said = await fragile.several([named('first'), named('worst'), named('last')], family)
    expect(said.map((item) => (item as ServiceError).message)).toEqual([
      expect.stringMatching(/^first .*opened alone/),
      expect.stringMatching(/^worst .*too much memory/),
      expect.stringMatching(/^last .*opened alone/),
    ])
    await fragile.close()
  })

  it('a thread that is lost is replaced', async () => {
    const lost = new Unpacker(async () => 'process.exit(1)')
    await expect(lost.packages(zip([described]), family, 'e')).rejects.toThrow('ended')
    await lost.close()
    // more memory than it may have, and an answer that never comes
    const hungry = new Unpacker(
      async () => "require('worker_threads').parentPort.on('message',()=>{const a=[];for(;;)a.push('x'.repeat(1e6)+a.length)})",
    )
    await expect(hungry.packages(zip([described]), family, 'e')).rejects.toMatchObject({
      message: expect.stringContaining('too much memory') as unknown,
    })
    await hungry.close()
    expect((await describeOne(zip([described]), family, 'e')).name).toBe('Eel')
  })
})

describe('downloads for servers of other families', () => {
  const unpacker = new Unpacker(thread)
  afterAll(() => unpacker.close())
  const of = (id: string) => readFamily(readFileSync(`families/${id}.yml`, 'utf8'))
  const [script, bundle] = [of('script'), of('bundle')]
  const lua = (more = ''): Member => ({ name: 'x/bundle.lua', data: text(`return { name = "Eel", version = "1.0"${more} }`) })
  const head = text('#: name: Eel\n#: version: 1.0\n')

  it.each<[string, typeof bundle, () => Uint8Array, RegExp]>([
    ['no description', bundle, () => zip([{ name: 'a.lua', data: text('x') }]), /holds no bundle.lua/],
    ['a description that does not read', bundle, () => zip([{ name: 'bundle.lua', data: text('return {') }]), /bundle.lua line 1/],
    ['a piece of no kind', bundle, () => zip([lua(', pieces = { { kind = "steal", from = "a", to = "b" } }')]), /bundle.lua line 1/],
    ['a piece that leads out', bundle, () => zip([lua(', pieces = { { kind = "copy", from = "a", to = "../b" } }')]), /below the server/],
    ['a link', bundle, () => zip([lua(), { name: 'x/a', data: text('y'), attributes: LINK }]), /is a link/],
    [
      'two of one name',
      bundle,
      () => zip([lua(), { name: 'x/A', data: text('y') }, { name: 'x/a', data: text('y') }]),
      /both x\/A and x\/a/,
    ],
    ['a packed one for others', bundle, () => zip([described]), /package for archive servers \(Archive plugins\)/],
    ['a bundle for scripts', script, () => zip([lua()]), /package for bundle servers/],
    ['a script that says nothing', script, () => text('run()'), /first lines do not say/],
    ['bytes that are no text', script, () => Buffer.from([0xff, 0xfe, 0x00]), /not UTF-8/],
    [
      'a broken script among others',
      script,
      () =>
        zip([
          { name: 'a.tide', data: head },
          { name: 'b.tide', data: text('run()') },
        ]),
      /b.tide in it cannot be used/,
    ],
    ['a damaged one', bundle, () => zip([lua()]).subarray(0, 60), /damaged/],
  ])('%s is refused, with the reason', async (_what, wanted, bytes, reason) => {
    const others = [family, script, bundle].filter(({ id }) => id !== wanted.id)
    await expect(unpacker.packages(bytes(), wanted, 'eel', others)).rejects.toMatchObject({
      code: 'bad-package',
      message: expect.stringMatching(reason) as unknown,
    })
  })

  it('several are told apart, and only what is theirs is theirs', async () => {
    const two = zip([
      lua(),
      { name: 'x/settings.lua', data: text('return { a = 1 }') },
      { name: 'y/bundle.lua', data: text('return { name = "Reed", version = "2.0" }') },
    ])
    const found = await unpacker.packages(two, bundle, 'two.zip')
    expect(found.map(({ root, info }) => [root, info.name, Object.keys(info.defaults)])).toEqual([
      ['x/', 'Eel', ['settings.lua']],
      ['y/', 'Reed', []],
    ])
    const inside = zip([
      { name: 'in/Eel.pack', data: zip([described]) },
      { name: 'readme', data: text('x') },
    ])
    const [packed] = await unpacker.packages(inside, family, 'in.zip')
    expect([packed!.info.name, packed!.member, Buffer.from(packed!.bytes!).equals(zip([described]))]).toEqual(['Eel', 'in/Eel.pack', true])
  })

  it('files are listed, and given by name', async () => {
    const bytes = zip([lua(), { name: 'x/a', data: text('four') }])
    expect(await unpacker.listing(bytes, 'e')).toContainEqual({ name: 'x/a', size: 4 })
    expect(Buffer.from((await unpacker.members(bytes, ['x/a'], 'e')).get('x/a')!).toString()).toBe('four')
    await expect(unpacker.members(bytes, ['x/b'], 'e')).rejects.toMatchObject({
      message: expect.stringContaining('holds no x/b') as unknown,
    })
  })
})

describe('packages on a server', () => {
  let world: World
  beforeAll(async () => void (world = await makeWorld()))
  afterAll(() => world.close())

  it('one whose name differs from another’s by capitals alone is not installed', async () => {
    const server = await world.server()
    const other = repacked(world.pack('hampers-2.4'), (files) => ({
      'pack.yml': files['pack.yml']!.replace('name: Hampers', 'name: PURSE'),
    }))
    const { id } = await addPackage(world.context, server, other, 'p.pack', 'test', 'maren')
    const { problems } = await planFor(world.context, server, id)
    expect(problems).toContainEqual(expect.objectContaining({ code: 'other-capitals', severity: 'error' }))
  })

  it('a default file never takes the place of a package', async () => {
    const wide = {
      ...family,
      plugins: { ...family.plugins, 'data-folder': 'extras' },
      settings: { ...family.settings, endings: ['pack', 'yml'] },
    }
    await expect(
      world.context.unpacker.packages(zip([described, { name: 'defaults/Purse.pack', data: text('x') }]), wide, 'e'),
    ).rejects.toMatchObject({ message: expect.stringContaining('take the place of a package') as unknown })
  })
})
