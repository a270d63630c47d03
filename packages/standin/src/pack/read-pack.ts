import { readFileSync } from 'node:fs'
import { strFromU8, unzipSync } from 'fflate'
import { parse } from 'yaml'
import { readDescriptor, type Behaviour, type Descriptor } from './descriptor'

export interface Pack {
  readonly descriptor: Descriptor
  readonly behaviour: Behaviour
  /** Files the plugin writes at its first start, by name. */
  readonly defaults: ReadonlyMap<string, string>
}

/** @throws Error when the file is no archive or lacks what a plugin needs. */
export function readPack(path: string): Pack {
  const files = unzipSync(readFileSync(path))
  const text = (name: string): string => {
    const bytes = files[name]
    if (!bytes) throw new Error(`${name} is missing in it`)
    return strFromU8(bytes)
  }
  const descriptor = readDescriptor(text('pack.yml'))
  const behaviour = parse(text('behaviour.yml')) as Behaviour
  const defaults = new Map(
    Object.keys(files)
      .filter((name) => name.startsWith('defaults/') && !name.endsWith('/'))
      .map((name) => [name.slice('defaults/'.length), text(name)]),
  )
  return { descriptor, behaviour, defaults }
}
