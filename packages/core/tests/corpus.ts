import { carry } from '../src/carry/carry'
import { carryFiles } from '../src/carry/carry-files'
import type { CarryFilesResult, Choice, Decision, PluginFile } from '../src/carry/types'
import { formatOf } from '../src/formats/registry'

/** One small case of carrying forward, as its file in corpus/ tells it. */
export interface Case {
  readonly title: string
  /** Why the result is what it is, in a sentence or two. */
  readonly why: string
  readonly factory: Files | null
  readonly mine: Files
  readonly update: Files
  readonly result: Files
  /** Lines such as `/pause scale-changed, needs a look`. */
  readonly says: readonly string[]
  readonly choices: Readonly<Record<string, Choice>>
  readonly shape: 'update' | 'mine'
}
export type Files = Readonly<Record<string, string>>

const SIDES = ['factory', 'mine', 'update', 'result'] as const

/** Reads a case: Markdown with a heading `## side: file` and a fenced text for each file. */
export function readCase(markdown: string): Case {
  const title = /^# (.*)$/m.exec(markdown)?.[1] ?? ''
  const why = /^(?![#-])[^]*/.exec(markdown.replace(/^# .*\n+/, '').split(/^(?:## |- )/m)[0]!)?.[0].trim() ?? ''
  const sides: Record<string, Record<string, string>> = {}
  for (const [, side, file, flags, text] of markdown.matchAll(/^## (\w+): (\S+)\n+````?(?:\S*)( no-final-line-end)?\n([^]*?)^````?$/gm)) {
    const body = flags ? text!.replace(/\n$/, '') : text!
    sides[side!] = { ...sides[side!], [file!]: body.replaceAll('␍\n', '\r\n') }
  }
  const choices = Object.fromEntries(
    [...markdown.matchAll(/^- choose (\S+) (\{.*\})$/gm)].map(([, id, choice]) => [id!, JSON.parse(choice!) as Choice]),
  )
  return {
    title,
    why,
    factory: sides['factory'] ?? (/^## no factory copy$/m.test(markdown) ? null : {}),
    mine: sides['mine'] ?? {},
    update: sides['update'] ?? {},
    result: sides['result'] ?? {},
    choices,
    says: [...markdown.matchAll(/^- says (.*)$/gm)].map((match) => match[1]!),
    shape: /^- shape mine$/m.test(markdown) ? 'mine' : 'update',
  }
}

/** Writes a case as `readCase` reads it. */
export function writeCase(item: Case): string {
  const parts = [`# ${item.title}\n`]
  if (item.why) parts.push(`${item.why}\n`)
  const listed = [
    ...(item.shape === 'mine' ? ['- shape mine'] : []),
    ...Object.entries(item.choices).map(([id, choice]) => `- choose ${id} ${JSON.stringify(choice)}`),
  ]
  if (listed.length > 0) parts.push(listed.join('\n') + '\n')
  if (item.factory === null) parts.push('## no factory copy\n')
  for (const side of SIDES)
    for (const [file, text] of Object.entries(item[side] ?? {})) parts.push(`## ${side}: ${file}\n\n${fenced(file, text)}`)
  if (item.says.length > 0) parts.push(item.says.map((line) => `- says ${line}`).join('\n') + '\n')
  return parts.join('\n')
}

function fenced(file: string, text: string): string {
  const ends = text === '' || text.endsWith('\n')
  const fence = text.includes('```') ? '````' : '```'
  return `${fence}${file.split('.').pop()}${ends ? '' : ' no-final-line-end'}\n${text.replaceAll('\r\n', '␍\n')}${ends ? '' : '\n'}${fence}\n`
}

/** Carries the files of a case: a single file by `carry`, several by `carryFiles`. */
export function runCase(item: Pick<Case, 'factory' | 'mine' | 'update' | 'choices' | 'shape'>): {
  result: Files
  says: string[]
  baseline: boolean
} {
  const files = (texts: Files): PluginFile[] => Object.entries(texts).map(([path, text]) => ({ path, text, format: formatOf(path)! }))
  const options = { choices: item.choices, shape: item.shape }
  const names = new Set([item.factory ?? {}, item.mine, item.update].flatMap((side) => Object.keys(side)))
  const [only] = names
  if (names.size === 1) {
    const done = carry(
      { factory: item.factory?.[only!] ?? null, mine: item.mine[only!]!, update: item.update[only!]!, format: formatOf(only!)! },
      options,
    )
    return {
      result: { [only!]: done.text },
      says: sayings(
        { baseline: done.baseline, files: [{ path: only!, text: done.text, from: only!, decisions: done.decisions, broken: done.broken }] },
        false,
      ),
      baseline: done.baseline,
    }
  }
  const done = carryFiles({ factory: item.factory && files(item.factory), mine: files(item.mine), update: files(item.update) }, options)
  return {
    result: Object.fromEntries(done.files.flatMap((file) => (file.text === null ? [] : [[file.path, file.text]]))),
    says: sayings(done, true),
    baseline: done.baseline,
  }
}

function sayings(result: CarryFilesResult, several: boolean): string[] {
  const say = (path: string, item: Decision): string =>
    `${several ? path + ' ' : ''}${item.path || '/'} ${item.outcome}${item.comment ? ' (comment)' : ''}${item.fromFile ? ` from ${item.fromFile}` : ''}${item.attention ? ', needs a look' : ''}`
  return result.files.flatMap((file) => file.decisions.map((item) => say(file.path, item)))
}
