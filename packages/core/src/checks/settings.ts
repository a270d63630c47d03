import { isGroup } from '../carry/groups'
import { formatPointer } from '../tree/pointer'
import { isContainer, isNameless, type Entry, type MapNode, type Node } from '../tree/nodes'
import { defineCheck, type CheckResult } from './check'
import { levelOf } from '../rules/rule'
import { looksOf, type FileLooks, type PartLook } from './looks'
import { nearest } from './near'
import { elsewhere, type Elsewhere } from './other-versions'
import type { WorkspaceFile } from './workspace'

/** Settings that the plugin does not know, and those of its own that are gone. */
export const knownSettings = defineCheck({
  id: 'known-settings',
  scope: 'file',
  codes: ['unknown-setting', 'missing-setting', 'is-missing'],
  *run(_workspace, file) {
    const looks = looksOf(file)
    for (const part of looks.parts) {
      if (part.node.type !== 'map') continue
      const told = yield* checkDeclared(part.node, part, looks)
      if (!file.factory) continue
      yield* checkSection(file, part, looks, told)
      yield* checkEntries(part)
    }
  },
})

/** What rules say of a section as such: what has to be in it, and that nothing else may be. @returns names that need no telling */
function* checkDeclared(node: MapNode, { keys, entry }: PartLook, { book }: FileLooks): Generator<CheckResult, ReadonlySet<string>> {
  const below = book.below(keys)
  const ours = new Set(node.entries.map(({ key }) => key))
  // what rules speak of is known, also where the plugin does not ship it
  const told = new Set([...below.keys()].filter((name) => ours.has(name)))
  const missing = [...below].filter(([name, { present }]) => present && !ours.has(name)).map(([name]) => name)
  const isClosed = book.find(keys)?.closed === true && !book.hasAny(keys)
  for (const own of isClosed ? node.entries : []) {
    if (isNameless(own) || below.has(own.key) || own.value.type === 'alias') continue
    const near = nearest(own.key, missing.length > 0 ? missing : [...below.keys()].filter((name) => !ours.has(name)))
    if (near) told.add(near.id)
    told.add(own.key)
    yield { ...unknownSetting(own, near?.id ?? null), severity: levelOf(book.sources(keys).closed) }
  }
  for (const name of missing) {
    if (told.has(name)) continue
    told.add(name)
    const { from, to } = entry ? { from: entry.keyFrom, to: entry.keyTo } : startOf(node)
    const message = `“${name}” has to be set ${entry ? `in “${entry.key}”` : 'here'}, and is not. Put it in.`
    const severity = levelOf(book.sources([...keys, name]).present)
    yield { code: 'is-missing', severity, from, to, message, cause: `missing ${formatPointer([...keys, name])}` }
  }
  return told
}

/** Whether people add settings of their own to a section: groups of like entries, and values that are all of one kind. */
function isOpen(section: MapNode, keys: readonly string[]): boolean {
  const parts = section.entries.filter((entry) => !isNameless(entry))
  if (parts.length === 0 || isGroup([section])) return true
  const kinds = new Set(parts.map(({ value }) => kindOf(value)))
  return kinds.size === 1 && parts.length > 1 && keys.length > 0 && !kinds.has('map')
}

const kindOf = (node: Node): string => (node.type === 'scalar' ? node.kind : node.type)

/** @param told names that need no telling */
function* checkSection(
  file: WorkspaceFile,
  { node, shipped, keys, entry }: PartLook,
  looks: FileLooks,
  told: ReadonlySet<string>,
): Iterable<CheckResult> {
  if (shipped?.type !== 'map' || node.type !== 'map') return
  const ours = new Set(node.entries.map(({ key }) => key))
  const theirs = new Set(shipped.entries.filter((one) => !isNameless(one)).map(({ key }) => key))
  const missing = [...theirs].filter((key) => !ours.has(key))
  const open = isOpen(shipped, keys)
  // names that are ids are looked up in the server's own lists
  if (looks.book.find(keys)?.keys) return
  const taken = new Set<string>()
  for (const own of node.entries) {
    if (isNameless(own) || theirs.has(own.key) || told.has(own.key) || own.value.type === 'alias') continue
    const near = nearest(own.key, missing)
    // what people add themselves another version may have shipped as an example
    const other = open ? null : elsewhere(file, [...keys, own.key])
    if (near) taken.add(near.id)
    else if (!other && (open || file.document.traits.values === 'text' || isContainer(own.value))) continue
    yield unknownSetting(own, near?.id ?? null, other)
  }
  if (open) return
  for (const key of missing) {
    if (taken.has(key) || told.has(key)) continue
    const { from, to } = entry ? { from: entry.keyFrom, to: entry.keyTo } : startOf(node)
    const message = `“${key}” is not set here, so that the plugin takes what it ships. Put it back to see what that is.`
    yield { code: 'missing-setting', severity: 'note', from, to, message, cause: `missing ${formatPointer([...keys, key])}` }
  }
}

const startOf = ({ entries, from }: MapNode): { from: number; to: number } => {
  const first = entries[0]
  return first ? { from: first.keyFrom, to: first.keyTo } : { from, to: from }
}

function unknownSetting({ key, keyFrom, keyTo }: Entry, meant: string | null, other: Elsewhere | null = null): CheckResult {
  const isBare = keyTo - keyFrom === key.length
  const isQuoted = keyTo - keyFrom === key.length + 2
  const place = { from: isQuoted ? keyFrom + 1 : keyFrom, to: isQuoted ? keyTo - 1 : keyTo }
  const next = meant
    ? `Did you mean ${meant}?`
    : other?.what === 'dropped'
      ? 'Take it out.'
      : other
        ? 'Take it out, or update the plugin.'
        : 'Take it out, or look up how it is called.'
  return {
    code: 'unknown-setting',
    severity: 'warning',
    ...place,
    message: `${whyUnknown(key, other)} ${next}`,
    cause: other ? `setting ${key} ${other.what}` : `setting ${key}`,
    ...(meant && (isBare || isQuoted) ? { fix: { label: meant, edits: [{ ...place, insert: meant }] } } : {}),
  }
}

function whyUnknown(key: string, other: Elsewhere | null): string {
  if (other?.what === 'dropped') return `“${key}” was dropped in ${other.lacks}; ${other.had} was the last to read it.`
  if (other) return `“${key}” comes with ${other.has}; ${other.lacks}, which is installed, does not read it yet.`
  return `The plugin ships no setting “${key}” here.`
}

/** Entries of a group that lack what all others have, and have what no other has and is like it. */
function* checkEntries({ node, shipped }: PartLook): Iterable<CheckResult> {
  if (node.type !== 'map') return
  const model = shipped?.type === 'map' && isGroup([shipped]) ? shipped : isGroup([node]) ? node : null
  if (!model) return
  const common = commonKeys(model)
  const known = new Set(model.entries.flatMap(({ value }) => (value.type === 'map' ? value.entries.map(({ key }) => key) : [])))
  for (const entry of node.entries) {
    const section = entry.value
    if (section.type !== 'map') continue
    const theirs = shipped?.type === 'map' ? shipped.entries.find(({ key }) => key === entry.key) : undefined
    // what the plugin ships itself is looked at section by section
    if (theirs) continue
    const ours = new Set(section.entries.map(({ key }) => key))
    const missing = common.filter((key) => !ours.has(key))
    const taken = new Set<string>()
    for (const own of section.entries) {
      const near = known.has(own.key) ? null : nearest(own.key, missing)
      if (near) taken.add(near.id)
      if (near) yield unknownSetting(own, near.id)
    }
    for (const key of missing.filter((one) => !taken.has(one)))
      yield {
        code: 'missing-setting',
        severity: 'note',
        from: entry.keyFrom,
        to: entry.keyTo,
        message: `“${entry.key}” has no “${key}”, which all others have.`,
        cause: `missing ${key}`,
      }
  }
}

/** Names that all sections of a group have; none where there are fewer than two. */
function commonKeys(group: MapNode): string[] {
  const sections = group.entries.flatMap(({ value }) => (value.type === 'map' ? [value] : []))
  if (sections.length < 2) return []
  const [first, ...others] = sections.map((section) => new Set(section.entries.map(({ key }) => key)))
  return [...first!].filter((key) => others.every((keys) => keys.has(key)))
}
