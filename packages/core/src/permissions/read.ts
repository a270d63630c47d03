import { lastWord, nameWords } from '../carry/likeness'
import { isContainer, type Document, type Entry, type MapNode, type Node } from '../tree/nodes'
import { amountOf } from '../tree/compare'
import { formatPointer, getNode, parsePointer } from '../tree/pointer'
import type { Grant, GrantPlace, PermissionGroup, PermissionPlayer, Permissions } from './model'

const setOf = (words: string): ReadonlySet<string> => new Set(words.split(' '))
/** Last words of the names of settings, by what they hold. */
const NODES = setOf('node permission right grant perm')
const PARENTS = setOf('inherit inheritance parent extend include')
const WEIGHT = setOf('weight priority rank order level')
const PREFIX = setOf('prefix')
const SUFFIX = setOf('suffix')
const NAME = setOf('name username nick nickname')
const GROUPS = setOf('group rank role crew team')
const UNTIL = setOf('until expiry expire end')
const EVERYBODY = setOf('newcomer default everybody everyone start guest new fallback')
const LADDER = setOf('ladder promotion track')

const entriesOf = (node: Node | null | undefined): readonly Entry[] => (node && isContainer(node) ? node.entries : [])
const find = (node: Node, names: ReadonlySet<string>): Entry | null => entriesOf(node).find(({ key }) => names.has(lastWord(key))) ?? null
const textOf = (document: Document, node: Node | undefined): string =>
  node?.type === 'scalar' ? (node.kind === 'text' ? String(node.value) : document.text.slice(node.from, node.to)) : ''

/** Groups of a permission plugin’s file, by the section they are in, with who is in none and the order of promotion. */
export function readGroups(document: Document, at: string): Pick<Permissions, 'groups' | 'everybody' | 'ladder'> {
  const keys = parsePointer(at) ?? []
  const section = getNode(document, keys)
  const groups = section?.type === 'map' ? section.entries.map((entry) => groupOf(document, [...keys, entry.key], entry)) : []
  const names = new Set(groups.map(({ name }) => name))
  return { groups, everybody: everybodyIn(document, names, keys), ladder: ladderIn(document, names) }
}

function groupOf(document: Document, keys: readonly string[], entry: Entry): PermissionGroup {
  const { value } = entry
  const [weight, prefix, suffix] = [WEIGHT, PREFIX, SUFFIX].map((words) => find(value, words))
  const at = (entry: Entry | null | undefined, key: string): string => formatPointer([...keys, entry?.key ?? key])
  const parents = find(value, PARENTS)
  return {
    name: entry.key,
    pointer: formatPointer(keys),
    from: entry.keyFrom,
    weight: weight?.value.type === 'scalar' ? amountOf(document, weight.value) : null,
    prefix: textOf(document, prefix?.value),
    suffix: textOf(document, suffix?.value),
    at: { weight: at(weight, 'weight'), prefix: at(prefix, 'prefix'), suffix: at(suffix, 'suffix') },
    inherits: parentsIn(document, keys, parents),
    inheritsAt: at(parents, 'inherits'),
    ...grantsIn(document, keys, value),
  }
}

/** Those it inherits from: a list, one name, or a section whose keys they are. */
function parentsIn(document: Document, keys: readonly string[], entry: Entry | null): PermissionGroup['inherits'] {
  if (!entry) return []
  const at = [...keys, entry.key]
  if (entry.value.type === 'scalar') {
    const name = textOf(document, entry.value)
    return name === '' || entry.value.kind !== 'text' ? [] : [{ name, pointer: formatPointer(at), from: entry.value.from }]
  }
  return entriesOf(entry.value).flatMap(({ key, value }) => {
    const name = entry.value.type === 'list' ? textOf(document, value) : key
    return name === '' ? [] : [{ name, pointer: formatPointer([...at, key]), from: value.from }]
  })
}

/** What is given: a list of nodes, where a minus denies, or a section of nodes that are true or false. */
function grantsIn(
  document: Document,
  keys: readonly string[],
  node: Node,
): { readonly grants: readonly Grant[]; readonly grantsAt: GrantPlace } {
  const found = find(node, NODES)
  const at = [...keys, found?.key ?? 'nodes']
  if (!found || !isContainer(found.value)) return { grants: [], grantsAt: { pointer: formatPointer(at), shape: 'missing', count: 0 } }
  const { value } = found
  const isList = value.type === 'list'
  const grants = value.entries.flatMap((entry): Grant[] => {
    const grant = isList ? itemGrant(document, entry) : keyGrant(document, entry)
    const isPlain = entry.value.type === 'scalar'
    const { from, to } = entry.value
    return grant ? [{ ...grant, pointer: formatPointer([...at, entry.key]), from, to, isPlain }] : []
  })
  return { grants, grantsAt: { pointer: formatPointer(at), shape: isList ? 'list' : 'map', count: value.entries.length } }
}

type Said = Pick<Grant, 'node' | 'isDenied' | 'until'>

function itemGrant(document: Document, { value }: Entry): Said | null {
  if (value.type === 'map') {
    const text = textOf(document, find(value, NODES)?.value)
    return text === '' ? null : { ...said(text), until: textOf(document, find(value, UNTIL)?.value) || null }
  }
  const text = textOf(document, value)
  return text === '' ? null : { ...said(text), until: null }
}
const said = (text: string): Pick<Grant, 'node' | 'isDenied'> => ({ node: text.replace(/^[-!^]/, ''), isDenied: /^[-!^]/.test(text) })

const keyGrant = (document: Document, { key, value }: Entry): Said => ({
  node: key,
  isDenied: value.type === 'scalar' && /^(?:false|no|off|0|deny|denied)$/i.test(textOf(document, value)),
  until: value.type === 'map' ? textOf(document, find(value, UNTIL)?.value) || null : null,
})

/** The group that a setting outside of the groups names for those who are in none. */
function everybodyIn(document: Document, names: ReadonlySet<string>, section: readonly string[]): string | null {
  let found: string | null = null
  const visit = (node: Node, keys: readonly string[]): void => {
    if (found !== null || formatPointer(keys) === formatPointer(section)) return
    for (const { key, value } of entriesOf(node)) {
      const path = [...keys, key]
      if (value.type === 'scalar') {
        const isIt = path.some((one) => nameWords(one).some((word) => EVERYBODY.has(word))) && names.has(textOf(document, value))
        if (isIt && found === null) found = textOf(document, value)
      } else visit(value, path)
    }
  }
  visit(document.root, [])
  return found
}

function ladderIn(document: Document, names: ReadonlySet<string>): Permissions['ladder'] {
  const entry = find(document.root, LADDER)
  return entriesOf(entry?.value)
    .map(({ key, value }) => ({ name: textOf(document, value), pointer: formatPointer([entry!.key, key]) }))
    .filter(({ name }) => names.has(name))
}

/** Players of a permission plugin’s file, by the section they are in: each under its id or its name. */
export function readPlayers(document: Document, at: string, operators: ReadonlySet<string>): PermissionPlayer[] {
  const keys = parsePointer(at) ?? []
  const section = getNode(document, keys)
  return section?.type === 'map' ? section.entries.map((entry) => playerOf(document, [...keys, entry.key], entry, operators)) : []
}

function playerOf(document: Document, keys: readonly string[], entry: Entry, operators: ReadonlySet<string>): PermissionPlayer {
  const { key, value } = entry
  const groups = find(value, GROUPS)
  const named = textOf(document, find(value, NAME)?.value)
  const name = named || (/^\d{5,}$/.test(key) ? '' : key)
  return {
    id: key,
    name,
    pointer: formatPointer(keys),
    from: entry.keyFrom,
    groups: groups ? groupsIn(document, groups.value) : [],
    groupsAt: { pointer: formatPointer([...keys, groups?.key ?? 'groups']), shape: groupsShape(groups?.value) },
    ...grantsIn(document, keys, value),
    isOperator: operators.has(key) || (name !== '' && operators.has(name)),
  }
}

/** Groups of a player: one name, a list, or a section whose keys they are. */
function groupsIn(document: Document, value: Node): string[] {
  if (value.type === 'scalar') return [textOf(document, value)].filter(Boolean)
  const nameOf = ({ key, value: one }: Entry): string =>
    value.type === 'map'
      ? key
      : one.type === 'scalar'
        ? textOf(document, one)
        : textOf(document, (find(one, NAME) ?? find(one, GROUPS))?.value)
  return entriesOf(value).map(nameOf).filter(Boolean)
}

function groupsShape(value: Node | undefined): PermissionPlayer['groupsAt']['shape'] {
  if (!value) return 'missing'
  if (value.type === 'scalar') return 'one'
  return value.type === 'list' && value.entries.every((one) => one.value.type === 'scalar') ? 'list' : 'other'
}

/** Names or ids in a list. */
export function namesIn(document: Document, at: string): string[] {
  const node = getNode(document, parsePointer(at) ?? [])
  return entriesOf(node).map(({ key, value }) => ((node as MapNode).type === 'map' ? key : textOf(document, value)))
}
