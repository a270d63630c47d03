import { layer } from '../carry/layer'
import type { Check, FileFinding } from './check'
import { lookAtFile, type CheckedFile } from './checking'
import type { Knowledge } from './knowledge'
import { looksOf } from './looks'
import { workspaceFile, workspaceOf, type WorkspaceInput } from './workspace'

/** All that is told of one settings file: plain data, which a thread can answer with. */
export interface LookedFile extends CheckedFile {
  /** How many settings are another than as they were shipped. */
  readonly mine: number
  readonly lines: number
  /** Where values stand that nobody else may see. */
  readonly secrets: readonly { readonly from: number; readonly to: number }[]
}

const NOTHING: LookedFile = { findings: [], facts: null, mine: 0, lines: 0, secrets: [] }

/** Reads a settings file, checks it, and keeps what other files have to do with. */
export function lookInto(input: WorkspaceInput, knowledge: Knowledge, checks: readonly Check[]): LookedFile {
  const file = workspaceFile({ ...input, known: knowledge.lists })
  if (!file) return NOTHING
  const { factory, document } = file
  return {
    ...lookAtFile(workspaceOf([file], null, [], knowledge), file, checks),
    mine: factory && factory.text !== document.text ? layer(factory, document).length : 0,
    lines: document.text.split('\n').length,
    secrets: looksOf(file).values.flatMap(({ rule, node }) => (rule?.means === 'secret' ? [{ from: node.from, to: node.to }] : [])),
  }
}

/**
 * What tells each finding from all others, also when lines move: what it is, in which file, and what stands on its line; of
 * several that are alike in all of that, which one.
 * @param textOf the text of a file; null where it has none
 */
export function subjectsOf(findings: readonly FileFinding[], textOf: (file: string) => string | null): string[] {
  const counts = new Map<string, number>()
  return findings.map(({ file, code, cause = '', from, to }) => {
    const text = textOf(file)
    const alike = [file, code, cause, ...(text === null ? [] : [text.slice(from, to), lineAround(text, from)])].join('\u0000')
    const nth = counts.get(alike) ?? 0
    counts.set(alike, nth + 1)
    return hashOf(`${alike}\u0000${nth}`)
  })
}

function lineAround(text: string, at: number): string {
  const end = text.slice(at).search(/[\r\n]/)
  return text.slice(text.lastIndexOf('\n', at - 1) + 1, end < 0 ? undefined : at + end).trim()
}

/** A short hash (FNV-1a over 2 × 32 bits), to tell texts apart and not to keep anything safe. */
function hashOf(text: string): string {
  let [low, high] = [0x811c9dc5, 0x01000193]
  for (let i = 0; i < text.length; i++) {
    low = Math.imul(low ^ text.charCodeAt(i), 0x01000193)
    high = Math.imul(high ^ text.charCodeAt(text.length - 1 - i), 0x85ebca6b)
  }
  return [low, high].map((part) => (part >>> 0).toString(16).padStart(8, '0')).join('')
}
