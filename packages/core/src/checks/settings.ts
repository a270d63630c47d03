import { isGroup } from '../carry/groups'
import { formatPointer } from '../tree/pointer'
import { isContainer, isNameless, type Entry, type MapNode, type Node } from '../tree/nodes'
import { defineCheck, type CheckResult } from './check'
import { looksOf, type FileLooks, type PartLook } from './looks'
import { nearest } from './near'
import type { WorkspaceFile } from './workspace'

/** Settings that the plugin does not know, and those of its own that are gone. */
export const knownSettings = defineCheck({
  id: 'known-settings',
  scope: 'file',
  codes: ['unknown-setting', 'missing-setting'],
  *run(_workspace, file) {
    if (!file.factory) return
    const looks = looksOf(file)
    for (const part of looks.parts) {
      if (part.node.type !== 'map') continue
      yield* checkSection(file, part, looks)
      yield* checkEntries(part)
    }
  },
})

/** Whether people add settings of their own to a section: groups of like entries, and values that are all of one kind. */
function isOpen(section: MapNode, keys: readonly string[]): boolean {
  const parts = section.entries.filter((entry) => !isNameless(entry))
  if (parts.length === 0 || isGroup([section])) return true
  const kinds = new Set(parts.map(({ value }) => kindOf(value)))
  return kinds.size === 1 && parts.length > 1 && keys.length > 0 && !kinds.has('map')
}

const kindOf = (node: Node): string => (node.type === 'scalar' ? node.kind : node.type)

function* checkSection({ document }: WorkspaceFile, { node, shipped, keys, entry }: PartLook, looks: FileLooks): Iterable<CheckResult> {
  if (shipped?.type !== 'map' || node.type !== 'map') return
  const ours = new Set(node.entries.map(({ key }) => key))
  const theirs = new Set(shipped.entries.filter((one) => !isNameless(one)).map(({ key }) => key))
  const missing = [...theirs].filter((key) => !ours.has(key))
  const open = isOpen(shipped, keys)
  // names that are ids are looked up in the server's own lists
  if (looks.book.find(keys)?.keys) return
  const taken = new Set<string>()
  for (const own of node.entries) {
    if (isNameless(own) || theirs.has(own.key) || own.value.type === 'alias') continue
    const near = nearest(own.key, missing)
    if (near) taken.add(near.id)
    else if (open || document.traits.values === 'text' || isContainer(own.value)) continue
    yield unknownSetting(own, near?.id ?? null)
  }
  if (open) return
  for (const key of missing) {
    if (taken.has(key)) continue
    const { from, to } = entry ? { from: entry.keyFrom, to: entry.keyTo } : startOf(node)
    const message = `“${key}” is not set here, so that the plugin takes what it ships. Put it back to see what that is.`
    yield { code: 'missing-setting', severity: 'note', from, to, message, cause: `missing ${formatPointer([...keys, key])}` }
  }
}

const startOf = ({ entries, from }: MapNode): { from: number; to: number } => {
  const first = entries[0]
  return first ? { from: first.keyFrom, to: first.keyTo } : { from, to: from }
}

function unknownSetting({ key, keyFrom, keyTo }: Entry, meant: string | null): CheckResult {
  const isBare = keyTo - keyFrom === key.length
  const isQuoted = keyTo - keyFrom === key.length + 2
  const place = { from: isQuoted ? keyFrom + 1 : keyFrom, to: isQuoted ? keyTo - 1 : keyTo }
  const next = meant ? `Did you mean ${meant}?` : 'Take it out, or look up how it is called.'
  return {
    code: 'unknown-setting',
    severity: 'warning',
    ...place,
    message: `The plugin ships no setting “${key}” here. ${next}`,
    cause: `setting ${key}`,
    ...(meant && (isBare || isQuoted) ? { fix: { label: meant, edits: [{ ...place, insert: meant }] } } : {}),
  }
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
