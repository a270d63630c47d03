import type { Document } from '../tree/nodes'
import { lenient, UNSAID } from '../formats/reading'
import { parse } from '../formats/registry'
import { applySafely, hasErrors, order, outOfOrder, reshapeSafely, settled, verify } from './carry'
import { KeyIndex, TreeIndex } from './index-tree'
import { likeness } from './section-likeness'
import { nameLikeness } from './likeness'
import { listsOf, readAlike } from './lists'
import { reorderLists, type Reordered } from './reorder'
import type { MergedFile } from './sides'
import type { CarriedFile, CarryFilesInput, CarryFilesResult, CarryOptions, Decision, PluginFile } from './types'
import { Walk } from './walk'

/** One file through its versions, with the documents read from them. */
interface Trio extends MergedFile {
  readonly lists: ReadonlySet<string>
}

/** How alike two files must be for one to be taken for the other under a new name. */
const SAME_FILE = 0.45

/**
 * Carries my customisations of all of a plugin's settings files onto a new version of them, also from one file to
 * another and from one format to another. Never throws: see `carry`. Ids of decisions, which `choices` go by, start
 * with the file of mine.
 */
export function carryFiles(input: CarryFilesInput, options: CarryOptions = {}): CarryFilesResult {
  const trios = pairFiles(input)
  const all = (side: keyof MergedFile): Document[] => trios.map((trio) => trio[side]).filter((document) => document !== null)
  const walk = new Walk(
    input.factory ? new TreeIndex(all('factory')) : null,
    new TreeIndex(all('mine')),
    new TreeIndex(all('update')),
    options.choices ?? {},
    trios,
  )
  walk.run()
  const decisions = new Map<Document | null, Omit<Decision, 'path'>[]>()
  for (const { spot, decision } of walk.notes.all) {
    const document = walk.render.patch.documentOf(spot)
    const list = decisions.get(document) ?? []
    list.push({ ...decision, path: walk.render.patch.pointer(spot) } as Decision)
    decisions.set(document, list)
  }
  const reorders = new Map(trios.map((trio) => [trio, trio.update ? walk.reordersIn(trio.update) : []]))
  const files = trios.map((trio) =>
    carried(trio, walk, reorders.get(trio)!, (decisions.get(trio.update ?? trio.mine) ?? []) as Decision[], options),
  )
  return { files: files.filter((file) => file !== null), baseline: input.factory !== null }
}

function carried(
  trio: Trio,
  walk: Walk,
  reorders: readonly Reordered[],
  decisions: readonly Decision[],
  options: CarryOptions,
): CarriedFile | null {
  const { factory, mine, update } = trio
  const from = mine?.file ?? null
  const broken = (['factory', 'mine', 'update'] as const).filter((side) => hasErrors(trio[side]))
  if (!update) {
    if (!mine) return null
    // a file of my own stays; one the plugin brought and no longer has goes, and what was mine in it is named
    const own = factory === null
    return { path: mine.file!, text: own ? mine.text : null, from, decisions: own ? [] : decisions.map(tidy), broken }
  }
  const read = (text: string): Document => ({ ...parse(text, update.format, { ...update.reading, lists: trio.lists }), file: update.file! })
  // the update left this file alone and sends nothing here from elsewhere: mine stands as it is, byte for byte
  if (
    mine &&
    factory?.text === update.text &&
    Object.keys(options.choices ?? {}).length === 0 &&
    decisions.every((item) => item.fromFile === undefined || item.fromFile === mine.file)
  )
    return {
      path: update.file!,
      text: mine.text,
      from,
      decisions: decisions.map((item) => ({ ...tidy({ ...item, path: item.from ?? item.path }) })).map(settled),
      broken,
    }
  const ordered = reorderLists(applySafely(update, walk.render.patch.groups(update), read), reorders, read)
  const result = ordered.document
  const { text } = result
  const index = new KeyIndex()
  const shaped = options.shape === 'mine' && mine?.format === update.format ? reshapeSafely(mine, result, read) : text
  return {
    path: update.file!,
    text: shaped,
    from,
    decisions: decisions.map((item) =>
      tidy(verify(outOfOrder({ ...item, path: ordered.pointer(item.path) }, ordered.failed), result, index)),
    ),
    broken,
  }

  function tidy(decision: Decision): Decision {
    const { fromFile, ...rest } = decision
    const elsewhere = fromFile !== undefined && fromFile !== (update ?? mine)!.file
    return order({ ...rest, ...(elsewhere ? { fromFile } : {}) })
  }
}

/** Which file of each version is which: by path, then, for those left over, by what they hold. */
function pairFiles(input: CarryFilesInput): Trio[] {
  const read = (file: PluginFile): Document => ({
    ...parse(file.text, file.format, lenient(file.reading ?? UNSAID)),
    file: file.path,
  })
  const sides = { factory: (input.factory ?? []).map(read), mine: input.mine.map(read), update: input.update.map(read) }
  const at = (side: keyof typeof sides, path: string): Document | null => sides[side].find((document) => document.file === path) ?? null
  const trios: MergedFile[] = []
  const olds = new Set([...sides.factory, ...sides.mine].map((document) => document.file!))
  const fresh = new Set(sides.update.map((document) => document.file!).filter((path) => !olds.has(path)))
  for (const path of olds) {
    const [factory, mine] = [at('factory', path), at('mine', path)]
    const known = at('update', path)
    // without factory copies at all, a file of mine may still have another name in the update
    const renamed =
      known || (!factory && input.factory)
        ? null
        : likest(
            factory ?? mine!,
            sides.update.filter((document) => fresh.has(document.file!)),
          )
    if (renamed) fresh.delete(renamed.file!)
    trios.push({ factory, mine, update: known ?? renamed })
  }
  for (const path of fresh) trios.push({ factory: null, mine: null, update: at('update', path) })
  return trios.map(alike)
}

function alike(file: MergedFile): Trio {
  const sides = (['factory', 'mine', 'update'] as const).filter((side) => file[side] !== null)
  const before = sides.map((side) => file[side]!)
  const documents = readAlike(before)
  const result = { ...file, lists: listsOf(documents) }
  sides.forEach((side, i) => {
    result[side] = { ...documents[i]!, file: before[i]!.file! }
  })
  return result
}

/** The new file an old one has become, by its settings and its name. */
function likest(old: Document, candidates: readonly Document[]): Document | null {
  let best: Document | null = null
  let bestScore = SAME_FILE
  for (const candidate of candidates) {
    const shape = likeness(old, old.root, candidate, candidate.root)
    const name = nameLikeness(stem(old.file!), stem(candidate.file!))
    const score = shape * 0.75 + name * 0.25
    if (shape >= 0.3 && score > bestScore) {
      best = candidate
      bestScore = score
    }
  }
  return best
}

function stem(path: string): string {
  return path.replace(/^.*\//, '').replace(/\.[^.]*$/, '')
}
