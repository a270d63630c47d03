import { isGroup } from '../carry/groups'
import { nameWords } from '../carry/likeness'
import type { Workspace, WorkspaceFile } from '../checks/workspace'
import { OperationError } from '../formats/error'
import { editDocument, renameEntry, setValue } from '../formats/operations'
import { RuleBook } from '../rules/book'
import { isContainer, isNameless, type Container, type Document, type Entry, type Node } from '../tree/nodes'
import { formatPointer, getNode, locate, parsePointer } from '../tree/pointer'
import { nameOfEntry, namesBeside } from './duplicate'
import { hasName, withExactName } from './names'

/** A place that names an entry from outside of it. */
export interface Reference {
  readonly file: string
  /** The setting, or the entry whose own key it is. */
  readonly pointer: string
  readonly what: 'value' | 'name'
  /** The value or the key as it stands. */
  readonly text: string
  /** Offset in the file. */
  readonly from: number
  /** Whether there is little doubt that the entry is meant, and not something that is called the same. */
  readonly isSure: boolean
}

/** The entry that is looked for. */
interface Wanted {
  readonly file: WorkspaceFile
  readonly keys: readonly string[]
  readonly node: Node | null
  readonly name: string
  readonly names: ReadonlySet<string>
  /** Words that the group and its plugin are called by. */
  readonly words: ReadonlySet<string>
}

/**
 * Everything that names an entry, in all files of a server: values and list items that are its name, permission nodes and
 * commands with its name among their parts, and keys. Those there is little doubt of come first.
 * @throws OperationError `no-such-setting` where there is no such entry
 */
export function findReferences(workspace: Workspace, path: string, keys: readonly string[]): Reference[] {
  const file = workspace.files.get(path)
  if (!file) throw new OperationError('no-such-setting', `there is no ${path}`)
  const name = nameOfEntry(file.document, keys)
  if (name === null || name === '') return []
  const group = keys.length > 1 ? keys.slice(0, -1).filter((key) => !/^\d+$/.test(key)) : []
  const words = new Set([...nameWords(group.at(-1) ?? baseName(path)), ...nameWords(file.plugin ?? '')])
  const node = getNode(file.document, keys)
  const wanted: Wanted = { file, keys, node, name, names: namesBeside(file.document, keys), words }
  return [...workspace.files.values()]
    .flatMap((other) => (other.document.text.includes(name) ? referencesIn(other, wanted) : []))
    .sort(byDoubt)
}

/** Whether two sections have most of their keys in common. */
function areMadeAlike(a: Node, b: Node | null): boolean {
  if (a.type !== 'map' || b?.type !== 'map') return false
  const names = new Set(b.entries.map(({ key }) => key))
  const shared = a.entries.filter(({ key }) => names.has(key)).length
  return shared > 0 && shared * 2 >= Math.min(a.entries.length, b.entries.length)
}

const byDoubt = (a: Reference, b: Reference): number =>
  Number(b.isSure) - Number(a.isSure) || (a.file < b.file ? -1 : a.file > b.file ? 1 : a.from - b.from)

const baseName = (path: string): string => path.slice(path.lastIndexOf('/') + 1).replace(/\.[^.]*$/, '')

/** A place that may name the entry, with what tells whether it does. */
interface Candidate {
  readonly reference: Omit<Reference, 'isSure'>
  /** Like places: the same key in all entries of a group, or all items of such lists. */
  readonly pattern: string
  readonly isWhole: boolean
  readonly isSure: boolean
  /** Whether it is picked from a list of the server's, or of the author's, and so one of those unless it is sure. */
  readonly isOfList: boolean
}

function referencesIn(file: WorkspaceFile, wanted: Wanted): Reference[] {
  const book = new RuleBook(file.rules)
  const candidates: Candidate[] = []
  const said = new Map<string, Set<string>>()
  const own = file.path === wanted.file.path ? getNode(file.document, wanted.keys) : null
  const isSamePlugin = file.plugin === wanted.file.plugin
  const speaksOfIt = (text: string): boolean => nameWords(text).some((word) => wanted.words.has(word))
  /** Whether what a setting is called, or what it is in, says that it is about such entries. */
  const isAbout = (keys: readonly string[]): boolean => speaksOfIt([...keys].reverse().find((key) => !/^\d+$/.test(key)) ?? '')

  function value(entry: Entry, keys: readonly string[], pattern: string): void {
    const { value: node } = entry
    if (node.type !== 'scalar' || node.kind !== 'text') return
    const text = String(node.value)
    if (text !== '') said.set(pattern, (said.get(pattern) ?? new Set()).add(text))
    if (!hasName(text, wanted.name)) return
    const isWhole = text === wanted.name
    const rule = book.find(keys) ?? book.find(keys.slice(0, -1))
    if (rule?.means === 'secret') return
    const isSure = isWhole ? isAbout(keys) : speaksOfIt(withExactName(text, wanted.name, ''))
    const isOfList = rule?.registry !== undefined || rule?.means === 'choice'
    if (!isWhole && !isSure && !(isSamePlugin && !/\s/.test(text))) return
    const reference = { file: file.path, pointer: formatPointer(keys), what: 'value', text, from: node.from } as const
    candidates.push({ reference, pattern, isWhole, isSure, isOfList })
  }

  function key(entry: Entry, parent: Container, keys: readonly string[]): void {
    if (parent.type !== 'map' || !hasName(entry.key, wanted.name)) return
    const isWhole = entry.key === wanted.name
    const others = parent.entries.filter((one) => !isNameless(one)).map((one) => one.key)
    const areAll = others.length > 1 && others.every((one) => wanted.names.has(one))
    // an entry made of the same under the same name is one of its own, as the same good at another stall
    const isPeer = isWhole && areMadeAlike(entry.value, wanted.node)
    const isNamed = isWhole ? areAll || isAbout(keys.slice(0, -1)) : speaksOfIt(withExactName(entry.key, wanted.name, ''))
    const isSure = isNamed && !isPeer
    if (!isSure && !isSamePlugin) return
    const reference = { file: file.path, pointer: formatPointer(keys), what: 'name', text: entry.key, from: entry.keyFrom } as const
    candidates.push({ reference, pattern: '', isWhole, isSure, isOfList: false })
  }

  const look = (node: Node, keys: readonly string[], pattern: string): void => {
    if (!isContainer(node) || node === own) return
    const isAny = node.type === 'list' || isGroup([node])
    for (const entry of node.entries) {
      if (isNameless(entry)) continue
      const at = [...keys, entry.key]
      const like = `${pattern}/${isAny ? '*' : entry.key}`
      if (entry.value !== own) key(entry, node, at)
      value(entry, at, like)
      look(entry.value, at, like)
    }
  }
  look(file.document.root, [], '')
  const namesSome = (pattern: string): boolean => {
    const texts = said.get(pattern)
    return texts !== undefined && texts.size > 1 && [...texts].every((text) => wanted.names.has(text))
  }
  return candidates.flatMap(({ reference, pattern, isWhole, isOfList, ...told }) => {
    const isSure = told.isSure || (isWhole && namesSome(pattern))
    return isSure || !isOfList ? [{ ...reference, isSure }] : []
  })
}

/** Puts another name into references of one file. @throws OperationError naming the first that cannot take it */
export function writeReferences(
  document: Document,
  references: readonly Pick<Reference, 'pointer' | 'what'>[],
  from: string,
  to: string,
): string {
  let now = document
  // keys last, and the inner ones first: what they lead to is found by the names that stand there
  const inOrder = [...references].sort(
    (a, b) => Number(a.what === 'name') - Number(b.what === 'name') || b.pointer.length - a.pointer.length,
  )
  for (const { pointer, what } of inOrder) {
    const keys = parsePointer(pointer) ?? []
    const found = locate(now, keys)
    if (!found) throw new OperationError('no-such-setting', `there is no ${pointer} any more`)
    const node = found.entry.value
    if (what === 'name') now = editDocument(now, renameEntry(now, keys, withExactName(found.entry.key, from, to)))
    else if (node.type === 'scalar' && node.kind === 'text')
      now = editDocument(now, setValue(now, keys, withExactName(String(node.value), from, to)))
  }
  return now.text
}
