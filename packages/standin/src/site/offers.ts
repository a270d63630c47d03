import { createHash } from 'node:crypto'
import { readFileSync, readdirSync, statSync } from 'node:fs'
import { extname, join } from 'node:path'
import { strFromU8, unzipSync } from 'fflate'
import { scriptDescriptor } from '../layouts/script'
import { readDescriptor, type Descriptor } from '../pack/descriptor'
import { readPack } from '../pack/read-pack'
import { readTree } from '../server/trees'

/** How packages of each family say what they are, by the endings of their files. */
const FAMILIES: Readonly<Record<string, { readonly family: string; describe(path: string): Descriptor }>> = {
  '.pack': { family: 'archive', describe: (path) => readPack(path).descriptor },
  '.tide': { family: 'script', describe: (path) => scriptDescriptor(readFileSync(path, 'utf8')) },
  '.zip': { family: 'bundle', describe: bundleIn },
}

function bundleIn(path: string): Descriptor {
  const files = unzipSync(readFileSync(path))
  const name = Object.keys(files).find((file) => /(^|\/)bundle\.lua$/.test(file))
  if (name === undefined) throw new Error(`${path} holds no bundle.lua`)
  return readDescriptor(JSON.stringify(readTree(name, strFromU8(files[name]!)).data))
}

/** A file that is written for people; empty for none. */
function noteIn(path: string, bytes: Uint8Array, name: string): string {
  if (extname(path) === '.tide') return ''
  const found = Object.entries(unzipSync(bytes)).find(([file]) => file === name || file.endsWith(`-final/${name}`))
  return found ? strFromU8(found[1]) : ''
}

/** Ranges alone, where an author also says what something adds. */
const rangesOf = (ranges: Readonly<Record<string, string | { readonly range: string }>>): Record<string, string> =>
  Object.fromEntries(Object.entries(ranges).map(([name, range]) => [name, typeof range === 'string' ? range : range.range]))

/** What was read of each file, as long as it is the same. */
const known = new Map<string, { readonly mark: string; readonly offer: object }>()

/** What the site has: one item a file, with what it says of itself. */
export function offersIn(folder: string): unknown[] {
  return readdirSync(folder)
    .filter((name) => Object.hasOwn(FAMILIES, extname(name)))
    .sort()
    .map((file) => {
      const path = join(folder, file)
      const { size, mtimeMs } = statSync(path)
      const mark = `${size} ${mtimeMs}`
      const there = known.get(path)
      if (there?.mark === mark) return there.offer
      const offer = offerOf(path, file)
      known.set(path, { mark, offer })
      return offer
    })
}

function offerOf(path: string, file: string): object {
  const { family, describe } = FAMILIES[extname(file)]!
  const { name, version, summary, game, requires, optional, authors, changes = '' } = describe(path)
  const bytes = readFileSync(path)
  const [readme, changelog] = ['README.md', 'CHANGELOG.md'].map((note) => noteIn(path, bytes, note))
  return {
    ...{ name, version, summary, game, family, requires, optional: rangesOf(optional), authors },
    link: `/packages/${encodeURIComponent(file)}`,
    size: bytes.length,
    sha256: createHash('sha256').update(bytes).digest('hex'),
    readme,
    changelog: changelog || changes,
  }
}
