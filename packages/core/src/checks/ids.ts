import { AS_LISTED, formOfMost, isOfGame, writeId, writtenId, type IdForm } from '../rules/id-forms'
import { levelOf } from '../rules/rule'
import { isContainer, type Finding, type Severity } from '../tree/nodes'
import { defineCheck, type CheckResult } from './check'
import { fixTo, lettersOf, type Letters } from './letters'
import { looksOf, sourceFor, sourceOf, type FileLooks, type PartLook, type ValueLook } from './looks'
import { shareIn } from './shares'
import { nearest } from './near'
import type { Workspace } from './workspace'

/** Ids that none of the server's lists has: items, sounds, effects, places, groups. */
export const knownIds = defineCheck({
  id: 'known-ids',
  scope: 'file',
  codes: ['unknown-id', 'unknown-group'],
  *run({ knowledge }, file) {
    const looks = looksOf(file)
    const forms = new FormsOfFile(knowledge.lists, looks)
    for (const value of looks.values) yield* checkValue(forms, looks, value)
    for (const part of looks.parts) yield* checkKeys(forms, looks, part)
  },
})

type Lists = Workspace['knowledge']['lists']

/** An id that a text begins with, and of which list it is. */
interface Named {
  readonly id: string
  readonly registry: string
}

/** In which way a file writes the ids of each list: as its author does, and where nobody knows what was shipped, as most of them are. */
class FormsOfFile {
  private readonly forms = new Map<string, IdForm>()

  constructor(
    readonly lists: Lists,
    private readonly looks: FileLooks,
  ) {}

  of(registry: string): IdForm {
    let form = this.forms.get(registry)
    if (!form) this.forms.set(registry, (form = this.read(registry)))
    return form
  }

  private read(registry: string): IdForm {
    const list = this.lists[registry]
    if (!list || !isOfGame(registry)) return AS_LISTED
    const shipped = this.idsOf(registry, true)
    const texts = shipped.length > 0 ? shipped : this.idsOf(registry, false)
    return formOfMost(list, texts) ?? AS_LISTED
  }

  /** The ids of a list that are shipped with the file, or all that stand in it. */
  private idsOf(registry: string, areShipped: boolean): string[] {
    const { values, parts } = this.looks
    const ids = values.flatMap((value) => {
      const text = !areShipped || value.isShipped ? value.text : value.shipped
      const named = text === null ? null : namedBy(this.lists, { ...value, text })
      return named?.registry === registry ? [named.id] : []
    })
    const keys = parts.flatMap(({ rule, node, shipped }) => {
      const section = areShipped ? shipped : node
      return rule?.keys === registry && section && isContainer(section) ? section.entries.map(({ key }) => key) : []
    })
    return [...ids, ...keys]
  }

  /** Whether an id is one of the list, in the way of this file. */
  has({ id, registry }: Named, list: ReadonlySet<string>): boolean {
    if (list.has(id)) return true
    const written = isOfGame(registry) ? writtenId(list, id) : null
    return written !== null && writeId(written.id, this.of(registry)) === id
  }
}

function* checkValue(forms: FormsOfFile, { book }: FileLooks, value: ValueLook): Iterable<CheckResult> {
  const named = namedBy(forms.lists, value)
  const list = named && forms.lists[named.registry]
  if (!named || !list || list.size === 0 || value.isShipped || value.text.includes('{') || forms.has(named, list)) return
  const letters = lettersOf(value.node, value.text, 0, named.id.length)
  yield unknown(forms, named, list, levelOf(sourceFor(book, value, 'registry')), letters)
}

function namedBy(lists: Lists, { rule, text, shipped, node }: ValueLook): Named | null {
  if (text === '' || node.kind !== 'text') return null
  if (rule?.means === 'id' && rule.registry) return { id: text, registry: rule.registry }
  if (rule?.means === 'amount' && rule.registry) return { id: shareIn(text)?.item ?? text, registry: rule.registry }
  if (!shipped) return null
  // a place before its numbers, where that of the author is one
  const [place, theirs] = [text, shipped].map((one) => /^([\p{L}_][\p{L}\p{N}_-]*)[\s,:]+-?\d/u.exec(one)?.[1])
  return place !== undefined && theirs !== undefined && lists['places']?.has(theirs) ? { id: place, registry: 'places' } : null
}

function* checkKeys(forms: FormsOfFile, { book }: FileLooks, { rule, node, keys, shipped }: PartLook): Iterable<CheckResult> {
  const list = rule?.keys === undefined ? undefined : forms.lists[rule.keys]
  if (!list || list.size === 0 || node.type !== 'map') return
  const theirs = new Set(shipped && isContainer(shipped) ? shipped.entries.map(({ key }) => key) : [])
  for (const { key, keyFrom, keyTo } of node.entries) {
    const named = { id: key, registry: rule!.keys! }
    if (theirs.has(key) || forms.has(named, list)) continue
    yield unknown(forms, named, list, levelOf(sourceOf(book, keys, 'keys')), lettersOf({ from: keyFrom, to: keyTo }, key))
  }
}

/** Words for one of a list: `items` holds an item. */
const oneOf = (registry: string): string => registry.replace(/ies$/, 'y').replace(/s$/, '')

function unknown(forms: FormsOfFile, { id, registry }: Named, list: ReadonlySet<string>, severity: Severity, letters: Letters): Finding {
  // what stands before a colon is the same before all of them
  const near = nearest(id, list) ?? nearest(id.slice(id.lastIndexOf(':') + 1), list)
  const meant = near && writeId(near.id, forms.of(registry))
  const what = oneOf(registry)
  const next = meant ? `Did you mean ${meant}?` : `Pick one of the ${list.size} there are.`
  return {
    code: registry === 'groups' ? 'unknown-group' : 'unknown-id',
    severity: registry === 'groups' ? 'error' : severity,
    from: letters.from,
    to: letters.to,
    message: `There is no ${what} ${id}. ${next}`,
    cause: `${registry} ${id}`,
    ...fixTo(letters, meant ?? undefined),
  }
}
