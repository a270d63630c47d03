import { nameWords } from '../carry/likeness'
import type { FileLooks } from '../checks/looks'
import type { WorkspaceFile } from '../checks/workspace'
import { formatPointer } from '../tree/pointer'
import type { Moment, Turn } from './message'
import { Sections } from './sections'
import { momentOf, turnOf, type SurfaceLook } from './surface'

/** A picture or a file that a setting names. */
export interface NamedFact {
  readonly pointer: string
  readonly from: number
  readonly to: number
  /** As it is written; empty for none. */
  readonly name: string
  readonly means: 'picture' | 'file'
  /** The folder it lies in, as a rule says; empty where none does. */
  readonly folder: string
  /** The size a picture has to be of, in pixels; null for any. */
  readonly width: number | null
  readonly height: number | null
  /** How the pictures of a list are shown; null for one. */
  readonly turn: Turn | null
  /** When players see it. */
  readonly moment: Moment
}

/** Pictures and files that the settings of a file name, also where they name none yet. */
export function namedIn(file: WorkspaceFile, looks: FileLooks): NamedFact[] {
  const found = looks.values.filter(({ rule, node }) => (rule?.means === 'picture' || rule?.means === 'file') && node.kind === 'text')
  if (found.length === 0) return []
  const sections = new Sections(file, looks)
  return found.map(({ keys, node, rule, text, isItem }): NamedFact => {
    const { means, folder = '', width = null, height = null } = rule!
    const look = lookAt(sections, isItem ? keys.slice(0, -1) : keys, looks)
    return {
      pointer: formatPointer(keys),
      from: node.from,
      to: node.to,
      name: text,
      means: means as NamedFact['means'],
      folder,
      width,
      height,
      turn: isItem ? turnOf(look) : null,
      moment: momentOf(look, 'chat'),
    }
  })
}

function lookAt(sections: Sections, keys: readonly string[], { parts, values }: FileLooks): SurfaceLook {
  const section = sections.at(keys.slice(0, -1))
  const isIt = (one: { readonly keys: readonly string[] }): boolean =>
    one.keys.length === keys.length && one.keys.every((key, i) => key === keys[i])
  const entry = (parts.find(isIt) ?? values.find(isIt))?.entry
  return {
    words: nameWords(keys.at(-1) ?? ''),
    wordsAbove: section.wordsAbove,
    beside: section.names,
    comment: entry ? sections.saidOf(keys, entry) : '',
    commentAbove: section.says,
  }
}
