import type { ServerFact } from '../checks/knowledge'
import { nearest } from '../checks/near'
import { formatOrText, parse, readingFor } from '../formats/registry'
import { getNode, parsePointer } from '../tree/pointer'
import { isResolved, type TextAction } from './actions'
import { arrangementOf } from './arrangements'
import { fillIn, type Family, type Piece } from './family'
import { gameVersionIn } from './game-version'
import { patternsFor, wordsFor, type Placed } from './folders'
import type { PackageAbout } from './package-info'
import { copiesOf, matchesPiece } from './pieces'
import { frameworkAction, registrationsOf } from './plan-parts'

/** A plugin as it lies on a server, with what it says of itself. */
export interface LyingPlugin extends Placed {
  readonly version: string
  /** Its package, or the description in its folder. */
  readonly path: string
  readonly isOff: boolean
  readonly info: PackageAbout
}

/** A file where packages are that is none. */
export interface Stranger {
  readonly path: string
  readonly says: string
}

/** All that is known of a server beside its settings. */
export interface ServerLook {
  readonly family: Family
  readonly plugins: readonly LyingPlugin[]
  /** Files below its folder, as far as they were looked for. */
  readonly paths: ReadonlySet<string>
  /** Settings and records of its plugins. */
  readonly owned: ReadonlySet<string>
  /** What looks like a package and cannot be opened as one, with why and the next step in a sentence. */
  readonly strangers?: readonly Stranger[]
  /** The texts that `textsAsked` names; those that are not there are left out. */
  readonly texts: ReadonlyMap<string, string>
  satisfies(version: string, range: string): boolean
}

/** Files whose texts tell whether a server is sound: where plugins are made known, and what pieces go into. */
export function textsAsked(family: Family, plugins: readonly LyingPlugin[], paths: ReadonlySet<string>): string[] {
  const pieces = plugins.flatMap((plugin) =>
    piecesOf(family, plugin, plugins).flatMap(({ piece, to }) =>
      piece.kind === 'copy'
        ? []
        : [
            to,
            ...membersOf(plugin, paths)
              .filter((member) => matchesPiece(piece.from, member))
              .map((member) => `${plugin.home}/${member}`),
          ],
    ),
  )
  const asked = [
    family['game-version'].file,
    ...family.register.map(({ file }) => file),
    ...(family.framework ? [family.framework.file] : []),
    ...pieces,
  ]
  return [...new Set(asked)].filter((path) => paths.has(path) || !path.includes('{'))
}

/** What of a server as a whole is not as it should be. */
export function serverFacts(look: ServerLook): ServerFact[] {
  return [
    ...framework(look),
    ...registrations(look),
    ...(look.strangers ?? []).map(({ path, says }) => fact('bad-package', path, { says })),
    ...strayPackages(look),
    ...strayFiles(look),
    ...pieces(look),
    ...requirements(look),
    ...otherGames(look),
  ]
}

const fact = (what: ServerFact['what'], file: string, values: ServerFact['values'], line?: number): ServerFact => ({
  what,
  file,
  from: 0,
  to: 0,
  values,
  ...(line === undefined ? {} : { line }),
})

function framework({ family, texts }: ServerLook): ServerFact[] {
  const how = family.framework
  if (!how) return []
  const text = texts.get(how.file) ?? null
  if (text === null || isResolved(frameworkAction(how), text, readingFor(how.file, family))) return []
  const words = how.line?.split(/\s+/).slice(0, -1).join(' ')
  return [
    fact(
      'plugins-off',
      how.file,
      { says: how.says },
      lineWith(text, (line) => words !== undefined && words !== '' && line.startsWith(words)),
    ),
  ]
}

function lineWith(text: string, fits: (line: string) => boolean): number {
  return Math.max(1, text.split(/\r\n|\n|\r/).findIndex((line) => fits(line.trim())) + 1)
}

function registrations({ family, plugins, texts, strangers = [] }: ServerLook): ServerFact[] {
  const facts: ServerFact[] = []
  const known = new Map(plugins.map((plugin) => [plugin.name, plugin]))
  const lineOf = (plugin: LyingPlugin): TextAction[] => registrationsOf(family, plugin, true)
  for (const plugin of plugins)
    for (const action of lineOf(plugin)) {
      const text = texts.get(action.path) ?? null
      if (text === null) continue
      if (!isResolved(action, text, readingFor(action.path, family)))
        facts.push(fact('not-registered', action.path, { plugin: plugin.name, line: action.kind === 'line' ? action.line : action.path }))
      else if (action.kind === 'line') facts.push(...early(action.line, plugin, text, known, lineOf))
    }
  for (const how of family.register) {
    const text = texts.get(how.file)
    if (how.kind !== 'line' || how.like === undefined || text === undefined) continue
    const fits = new RegExp(how.like)
    const lines = new Set(plugins.flatMap(lineOf).flatMap((action) => (action.kind === 'line' ? [action.line.trim()] : [])))
    text.split(/\r\n|\n|\r/).forEach((line, index) => {
      if (!fits.test(line.trim()) || lines.has(line.trim())) return
      // what cannot be opened is told as such; its line may well be right
      const words = new Set(line.trim().split(/[\s"'=]+/))
      if (strangers.some(({ path }) => path.split('/').some((part) => words.has(part) || words.has(part.replace(/\.\w+$/, ''))))) return
      facts.push(fact('registered-nobody', how.file, { line: line.trim(), near: nearest(line.trim(), lines)?.id ?? '' }, index + 1))
    })
  }
  return facts
}

/** What a plugin needs and comes below it, so that it is not there yet when this one is loaded. */
function early(
  line: string,
  plugin: LyingPlugin,
  text: string,
  known: ReadonlyMap<string, LyingPlugin>,
  lineOf: (plugin: LyingPlugin) => TextAction[],
): ServerFact[] {
  const at = lineWith(text, (one) => one === line.trim())
  return Object.keys(plugin.info.requires).flatMap((name) => {
    const needed = known.get(name)
    const theirs = needed ? lineOf(needed).find((action) => action.kind === 'line') : undefined
    if (theirs?.kind !== 'line' || !text.includes(theirs.line)) return []
    return lineWith(text, (one) => one === theirs.line.trim()) > at
      ? [fact('registered-early', theirs.path, { plugin: plugin.name, needs: name }, at)]
      : []
  })
}

function strayPackages({ family, paths, plugins }: ServerLook): ServerFact[] {
  const { ending, folder, kept } = family.plugins
  if (ending === undefined) return []
  const known = new Set(plugins.map(({ path }) => path))
  return [...paths]
    .filter((path) => path.endsWith('.' + ending) && !known.has(path) && !arrangementOf(family).isPackage(family, path))
    .filter((path) => kept !== 'unpacked' || path.startsWith(folder + '/'))
    .map((path) => fact('misplaced-package', path, { folder }))
}

function strayFiles({ family, paths, owned }: ServerLook): ServerFact[] {
  const { isSettings } = patternsFor(family, null)
  const registers = new Set(family.register.map(({ file }) => file))
  return [...paths]
    .filter((path) => isSettings(path) && !owned.has(path) && !registers.has(path))
    .map((path) => fact('file-of-nobody', path, {}))
}

const membersOf = ({ home }: Placed, paths: ReadonlySet<string>): string[] =>
  [...paths].filter((path) => path.startsWith(home + '/')).map((path) => path.slice(home.length + 1))

interface PlacedPiece {
  readonly piece: Piece
  readonly to: string
  readonly more: Readonly<Record<string, string>>
}

/** The pieces of a plugin with where they go; those whose place is not known are left out. */
function piecesOf(family: Family, plugin: LyingPlugin, plugins: readonly LyingPlugin[]): PlacedPiece[] {
  return [...family.pieces, ...plugin.info.pieces].flatMap((piece): PlacedPiece[] => {
    const other = piece.of === undefined ? null : plugins.find(({ name }) => name === piece.of)
    if (other === undefined || plugin.isOff) return []
    const more: Record<string, string> = other ? { 'their-home': other.home, 'their-folder': other.folder } : {}
    const to = fillIn(piece.to, { ...wordsFor(family, plugin), ...more, version: plugin.version })
    return to.includes('{') ? [] : [{ piece, to, more }]
  })
}

function pieces({ family, plugins, paths, texts }: ServerLook): ServerFact[] {
  // what stays packed cannot be looked into here
  if (arrangementOf(family).arrives !== 'folder') return []
  return plugins.flatMap((plugin) => {
    const members = membersOf(plugin, paths)
    return piecesOf(family, plugin, plugins).flatMap(({ piece, to, more }) => {
      const told = (file: string, what: string): ServerFact =>
        fact('piece-missing', file, { plugin: plugin.name, what, because: piece.because })
      if (piece.kind === 'copy')
        return copiesOf(family, piece, members, plugin, more)
          .filter(({ path }) => !paths.has(path))
          .map(({ path }) => told(path, 'a file'))
      const missing = members
        .filter((member) => matchesPiece(piece.from, member))
        .flatMap((member) => lacking(family, piece, texts.get(`${plugin.home}/${member}`) ?? '', texts.get(to) ?? null, { member, to }))
      return missing.length > 0 ? [told(to, missing.slice(0, 4).join(', '))] : []
    })
  })
}

/** What of a piece is not in the file it goes into. */
function lacking(
  family: Family,
  piece: Piece,
  text: string,
  target: string | null,
  { member, to }: { member: string; to: string },
): string[] {
  if (piece.kind === 'block') {
    const head = text.split(/\r\n|\n|\r/).find((line) => /^\s*\[.+\]\s*$/.test(line))
    return head !== undefined && !(target ?? '').includes(head.trim()) ? [head.trim()] : []
  }
  const at = parsePointer(piece.at) ?? []
  const from = parse(text, formatOrText(member), readingFor(member, family))
  const into = target === null ? null : parse(target, formatOrText(to), readingFor(to, family))
  const node = getNode(from, at) ?? from.root
  const there = into && (getNode(into, at) ?? into.root)
  if (node.type !== 'map') return []
  return node.entries.map(({ key }) => key).filter((key) => there?.type !== 'map' || !there.entries.some((entry) => entry.key === key))
}

function requirements({ plugins, satisfies }: ServerLook): ServerFact[] {
  const byName = new Map(plugins.map((plugin) => [plugin.name, plugin]))
  return plugins.flatMap((plugin) => {
    if (plugin.isOff) return []
    const { name, path, info } = plugin
    const needed = Object.entries({ ...info.requires, ...info.companions }).flatMap(([needs, range]) => {
      const there = byName.get(needs)
      const values = { plugin: name, needs, range: range === '*' ? '' : range, version: there?.version ?? '' }
      if (!there) return [fact('requires-missing', path, values)]
      if (there.isOff) return [fact('requires-off', path, values)]
      return satisfies(there.version, range) ? [] : [fact('requires-other', path, values)]
    })
    const against = Object.entries(info.conflicts).flatMap(([other, range]) => {
      const there = byName.get(other)
      return there && !there.isOff && satisfies(there.version, range) ? [fact('conflict', path, { plugin: name, other })] : []
    })
    return [...needed, ...against]
  })
}

/** Plugins that say they are for other versions of the game than the one that runs here. */
function otherGames({ family, plugins, texts, satisfies }: ServerLook): ServerFact[] {
  const text = texts.get(family['game-version'].file)
  const version = text === undefined ? null : gameVersionIn(family, text)
  if (version === null) return []
  return plugins
    .filter(({ isOff, info }) => !isOff && info.game !== '*' && !satisfies(version, info.game))
    .map(({ name, path, info }) => fact('other-game', path, { plugin: name, range: info.game, version }))
}
