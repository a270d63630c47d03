import { readdirSync, readFileSync, statSync } from 'node:fs'
import { join, relative, sep } from 'node:path'
import { zipSync, type Zippable } from 'fflate'

/** Packs a folder into the bytes of a zip, below an outer folder where one is named. The same folder gives the same bytes. */
export function buildPack(folder: string, outer = ''): Uint8Array {
  const files: Zippable = {}
  for (const path of filesBelow(folder))
    files[outer + relative(folder, path).split(sep).join('/')] = [readFileSync(path), { mtime: new Date('2026-01-01T00:00:00Z') }]
  return zipSync(files, { level: 6 })
}

function filesBelow(folder: string): string[] {
  return readdirSync(folder)
    .sort()
    .flatMap((name) => {
      const path = join(folder, name)
      return statSync(path).isDirectory() ? filesBelow(path) : [path]
    })
}
