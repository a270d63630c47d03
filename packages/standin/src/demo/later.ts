import { cpSync, existsSync, mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { parse } from 'yaml'
import { changed, type TextChange } from './changed'
import { writeWharves, type WharfPrices } from './wharves'

interface Later {
  readonly of: string
  /** By file; a package that is one file is called by nothing. */
  readonly changes: Readonly<Record<string, readonly TextChange[]>>
}

const readYaml = (folder: string, path: string): unknown => parse(readFileSync(join(folder, path), 'utf8'))

/** What stalls ask for an item. */
function stallPrices(folder: string): ReadonlyMap<string, number> {
  const prices = readYaml(folder, 'stallholder-2.1/defaults/prices.yml') as Record<string, unknown>
  const sections = Object.values(prices).filter((one): one is Record<string, number> => typeof one === 'object' && one !== null)
  return new Map(sections.flatMap((section) => Object.entries(section)))
}

const wharfPrices = (folder: string): WharfPrices =>
  (readYaml(folder, 'wharfside-1.0/defaults/settings.yml') as { categories: WharfPrices }).categories

/**
 * The sources of the demo's packages, each under its name and version: those that lie there, the goods of the wharves, and
 * the later ones that demo/later.yml tells by what is different. They are put together in a folder, which is handed to `use` and gone after it.
 */
export function withLater(sources: string, use: (folder: string) => void): void {
  const folder = mkdtempSync(join(tmpdir(), 'demo-'))
  try {
    cpSync(sources, folder, { recursive: true })
    if (existsSync(join(folder, 'wharfside-1.0')))
      writeWharves(join(folder, 'wharfside-1.0/defaults/goods'), stallPrices(folder), wharfPrices(folder))
    const later = parse(readFileSync(join(sources, 'later.yml'), 'utf8')) as Record<string, Later>
    for (const [name, { of, changes }] of Object.entries(later)) {
      const kind = ['', 'scripts', 'bundles'].find((at) => statSync(join(folder, at, of), { throwIfNoEntry: false }))
      if (kind === undefined) throw new Error(`later.yml: there is no ${of}`)
      cpSync(join(folder, kind, of), join(folder, kind, name), { recursive: true })
      for (const [file, list] of Object.entries(changes)) {
        const path = join(folder, kind, name, file)
        writeFileSync(path, changed(`${name}/${file}`, readFileSync(path, 'utf8'), list))
      }
    }
    use(folder)
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}
