import picomatch from 'picomatch/posix.js'
import { fillIn, type Family } from './family'

/** A plugin as it lies on a server. */
export interface Placed {
  /** As its package says. */
  readonly name: string
  /** The folder it was unpacked into, as the server calls it: the last part of `home`. Its name, where it stays packed. */
  readonly folder: string
  /** That folder below the server's; the plugins' folder, where it stays packed. */
  readonly home: string
}

/** A plugin of a family whose packages stay as they are. */
export function placedByName(family: Family, name: string): Placed {
  return { name, folder: name, home: family.plugins.folder }
}

type Words = Readonly<Record<string, string>>

/** By the plugin as it was found: each of its files asks for them. */
const wordsOf = new WeakMap<Placed, { readonly family: Family; readonly words: Words }>()

/** The words places and commands may hold, for one plugin. */
export function wordsFor(family: Family, plugin: Placed): Words {
  const known = wordsOf.get(plugin)
  if (known?.family === family) return known.words
  const words = makeWords(family, plugin)
  wordsOf.set(plugin, { family, words })
  return words
}

function makeWords(family: Family, plugin: Placed): Words {
  const { name, folder, home } = plugin
  const template = family.plugins['data-folder']
  const words = { plugin: name, folder, home, ...(family.profile ? { profile: family.profile.folder } : {}) }
  return { ...words, ...(template ? { data: fillIn(template, words) } : family.plugins.kept === 'unpacked' ? { data: home } : {}) }
}

/** The folder one plugin keeps its files in, below the server's; null where plugins have none of their own. */
export function dataFolder(family: Family, plugin: Placed): string | null {
  return wordsFor(family, plugin)['data'] ?? null
}

/** The patterns a family has for settings files, for one plugin with its words filled in; for any plugin with null. */
export interface FilePatterns {
  /** Folders to look into, each with how deep. */
  readonly roots: readonly { readonly folder: string; readonly depth: number }[]
  isSettings(path: string): boolean
  isRecord(path: string): boolean
}

const DEEPEST = 4

const cache = new WeakMap<Family, Map<string, FilePatterns>>()

/** Where a plugin's settings and records are, as its family says. */
export function patternsFor(family: Family, plugin: Placed | null): FilePatterns {
  const ofFamily = cache.get(family) ?? new Map<string, FilePatterns>()
  cache.set(family, ofFamily)
  const key = plugin ? JSON.stringify([plugin.name, plugin.folder, plugin.home]) : ''
  let known = ofFamily.get(key)
  if (!known) ofFamily.set(key, (known = makePatterns(family, plugin)))
  return known
}

function makePatterns(family: Family, plugin: Placed | null): FilePatterns {
  const { endings, files, except, records } = family.settings
  const inData = (pattern: string): string => `{data}/**/${pattern}`
  const settings = [...files, ...(hasData(family) ? endings.map((ending) => inData(`*.${ending}`)) : [])]
  const whole = (pattern: string): string => (pattern.includes('/') || !hasData(family) ? pattern : inData(pattern))
  const ofRecords = records.map(whole)
  const fill = (pattern: string): string => filled(family, plugin, pattern)
  const matches = (patterns: readonly string[]): ((path: string) => boolean) =>
    patterns.length === 0 ? () => false : picomatch(patterns.map(fill), { dot: true, strictSlashes: true })
  const isRecord = matches(ofRecords)
  const isLeftOut = matches(except.map(whole))
  const isNamed = matches(settings)
  return {
    roots: rootsOf([...settings, ...ofRecords].map(fill)),
    isRecord,
    isSettings: (path) => isNamed(path) && !isRecord(path) && !isLeftOut(path),
  }
}

const hasData = (family: Family): boolean => family.plugins['data-folder'] !== undefined || family.plugins.kept === 'unpacked'

/** A pattern with its words: those of a plugin mean themselves only, and without one they mean any name. */
function filled(family: Family, plugin: Placed | null, pattern: string): string {
  if (plugin) {
    const words = Object.entries(wordsFor(family, plugin)).map(([word, value]) => [word, literally(value)])
    return fillIn(pattern, Object.fromEntries(words) as Record<string, string>)
  }
  const { folder, 'data-folder': data = '{home}' } = family.plugins
  const home = family.plugins.kept === 'unpacked' ? `${literally(folder)}/**` : literally(folder)
  return fillIn(fillIn(pattern, { data }), { plugin: '*', folder: '*', home, profile: literally(family.profile?.folder ?? '') })
}

/** A name as a pattern that fits it alone. */
const literally = (name: string): string => name.replace(/[\\*?[\](){}!+@|^$]/g, '\\$&')

/** Folders to list for patterns: none of them lies in another. */
function rootsOf(patterns: readonly string[]): { folder: string; depth: number }[] {
  const roots = new Map<string, number>()
  for (const pattern of patterns) {
    const base = picomatch.scan(pattern).base.replaceAll(/\\(.)/g, '$1')
    const isWhole = !picomatch.scan(pattern).isGlob
    const folder = isWhole ? base.split('/').slice(0, -1).join('/') : base
    const rest = isWhole
      ? 0
      : pattern.includes('**')
        ? DEEPEST
        : pattern.replace(/\\./g, '').split('/').length - folder.split('/').length - 1
    roots.set(folder, Math.max(roots.get(folder) ?? 0, rest))
  }
  const inside = (folder: string, depth: number): boolean =>
    [...roots].some(
      ([other, reach]) =>
        folder !== other && folder.startsWith(other + '/') && folder.slice(other.length + 1).split('/').length + depth <= reach,
    )
  return [...roots].filter(([folder, depth]) => !inside(folder, depth)).map(([folder, depth]) => ({ folder, depth }))
}

/**
 * What a plugin calls a file of its own, whatever folder it was put into: the path below its own folder, or for others
 * `/` and the path with `{plugin}` and `{folder}` in it. `pathOf` is the way back.
 */
export function nameOf(family: Family, plugin: Placed, path: string): string {
  const data = dataFolder(family, plugin)
  if (data !== null && path.startsWith(data + '/')) return path.slice(data.length + 1)
  const words = wordsFor(family, plugin)
  const template = family.settings.files.find((pattern) => fillIn(pattern, words) === path)
  return '/' + (template ?? path)
}

/** Where a file lies that a plugin calls so. */
export function pathOf(family: Family, plugin: Placed, name: string): string {
  return name.startsWith('/') ? fillIn(name.slice(1), wordsFor(family, plugin)) : `${dataFolder(family, plugin) ?? ''}/${name}`
}
