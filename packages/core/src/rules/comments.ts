import { isContainer, type Document, type Entry } from '../tree/nodes'
import { locate } from '../tree/pointer'
import { bareComment } from '../carry/index-tree'

/** What the author says about a setting: the comments right above it and behind it, joined as they run on. */
export function authorsComment(document: Document, entry: Entry): string {
  const attached = entry.lead.filter((comment) => comment.attached)
  const lines = attached.map((comment) => tidy(document.text.slice(comment.from, comment.to)))
  if (entry.trail) lines.push(tidy(document.text.slice(entry.trail.from, entry.trail.to)))
  return lines.filter((line) => !/^[-=*#~_\s]*$/.test(line)).join('\n')
}

function tidy(source: string): string {
  return source
    .split(/\r\n|\r|\n/)
    .map((line) => bareComment(line.trim()).replace(/^\*\s?/, ''))
    .join('\n')
}

/**
 * What the author says about a setting: in comments of its own, else in one above a section it is in, where a line says what
 * settings of its name are. @returns empty where nothing does
 */
export function saidAbout(document: Document, keys: readonly string[]): string {
  const entry = locate(document, keys)?.entry
  const own = entry ? authorsComment(document, entry) : ''
  if (own !== '') return own
  for (let depth = keys.length - 1; depth > 0; depth--) {
    const above = locate(document, keys.slice(0, depth))?.entry
    const said = above && describedIn(authorsComment(document, above)).get(keys.at(-1)!)
    if (said) return said
  }
  return ''
}

/** The comment at the head of a file, which may speak of all of its settings. */
export function headComment(document: Document): string {
  const { root } = document
  const first = isContainer(root) ? root.entries[0] : undefined
  return (first?.lead ?? []).map((comment) => tidy(document.text.slice(comment.from, comment.to))).join('\n')
}

/**
 * What a comment above a section says of the settings in it, by their names: lines as `rows   how many, 1 to 6`, `rows: how
 * many` or `rows - how many`. Lines that are indented more go on.
 */
export function describedIn(comment: string): ReadonlyMap<string, string> {
  const found = new Map<string, string>()
  for (const [, name, words] of comment.matchAll(
    /(?:^|[.;\n]\s*)[“"'`]?([\p{L}_][\p{L}\p{N}_.-]*)[”"'`]? (?:is|takes|must be) ((?:one of|either)[^.\n]+)/gu,
  ))
    found.set(name!, words!)
  let last: { readonly name: string; readonly indent: number } | null = null
  for (const line of comment.split('\n')) {
    const named = /^(\s*)[“"'`]?([\p{L}_][\p{L}\p{N}_.-]*)[”"'`]?(?:\s{2,}|\s*[:=]\s+|\s+[-–—]\s+)(\S.*)$/u.exec(line)
    const indent = /^\s*/.exec(line)![0].length
    if (named) {
      last = { name: named[2]!, indent }
      found.set(last.name, named[3]!)
    } else if (last && indent > last.indent && line.trim() !== '') found.set(last.name, `${found.get(last.name)!}\n${line.trim()}`)
    else last = null
  }
  return found
}
