import { readFileSync, readdirSync } from 'node:fs'
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

/** What the site has: one item a file, with what it says of itself. */
export function offersIn(folder: string): unknown[] {
  return readdirSync(folder)
    .filter((name) => Object.hasOwn(FAMILIES, extname(name)))
    .sort()
    .map((file) => {
      const { family, describe } = FAMILIES[extname(file)]!
      const { name, version, summary, game, requires, authors } = describe(join(folder, file))
      return { name, version, summary, game, family, requires, authors, link: `/packages/${encodeURIComponent(file)}` }
    })
}
