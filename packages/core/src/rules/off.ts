import { commentedOut, type OffSetting } from '../formats/commented'
import { lineStart } from '../text/lines'
import { isContainer, type Container, type Document } from '../tree/nodes'

/** A setting the author left commented out, with what is said of it. */
export interface NotSet extends OffSetting {
  /** Its value as it stands in the comment; of several lines the first. */
  readonly source: string
  readonly comment: string
}

/** Words that begin a remark and name no setting. */
const REMARKS =
  /^(?:default|defaults|example|examples|e\.g|note|notes|warning|hint|tip|markup|options?|values?|types?|choices|min|max|minimum|maximum|units?|todo|see|usage|format|version|author|website|https?|after|before)$/i
const VALUE = /^(?:-?\d[\w.]*|true|false|yes|no|on|off|null|nil|~|"[^"]*"|'[^']*'|\[.*\]|\{.*\}|[^\s"'{}[\]:,]+|)$/i

/**
 * The settings of a section that stand in comments and are not set in it, as `# close-early: 600`. Remarks that merely look
 * like one are left out: a sentence is no value.
 */
export function notSet(document: Document, container: Container): NotSet[] {
  if (container.type !== 'map') return []
  const set = new Set(container.entries.map(({ key }) => key))
  return commentedOut(document, container).flatMap((off) => {
    if (set.has(off.key) || REMARKS.test(off.key) || !standsIn(document, container, off)) return []
    const source = sourceOf(off)
    const hasMore = off.lines.length > 1
    return (hasMore || (source !== '' && VALUE.test(source))) && looksLikeOthers(off.key, container)
      ? [{ ...off, source, comment: commentAbove(document, off) }]
      : []
  })
}

/** A comment below a block is its own by its column, and may else be of the section around it. */
function standsIn({ text }: Document, { flow, indent, entries }: Container, { from }: OffSetting): boolean {
  const column = from - lineStart(text, from)
  const isOfChild = entries.some(
    ({ value }) => isContainer(value) && !value.flow && value.indent === column && value.tail.some((comment) => comment.from === from),
  )
  return !isOfChild && (flow || indent < 0 || column === indent)
}

const sourceOf = ({ key, lines }: OffSetting): string => {
  const at = lines[0]!.indexOf(key) + key.length
  return lines[0]!
    .slice(at)
    .replace(/^["'\]]*\s*[:=]\s*/, '')
    .replace(/\s+(?:#|--|\/\/|;).*$/, '')
    .replace(/[,;]\s*$/, '')
    .trim()
}

/** A name with a capital at its beginning is a remark where no other has one. */
function looksLikeOthers(key: string, container: Container): boolean {
  const isCapital = (name: string): boolean => /^\p{Lu}/u.test(name)
  return !isCapital(key) || container.entries.some((entry) => isCapital(entry.key)) || container.entries.length === 0
}

/** The lines of the same comment above it, up to another setting or a blank line. */
function commentAbove({ text }: Document, { from }: OffSetting): string {
  const above: string[] = []
  for (let end = lineStart(text, from); end > 0;) {
    const start = lineStart(text, end - 1)
    const words = /^\s*(?:#|--|\/\/|;|!)+\s?(.*)$/.exec(text.slice(start, end).trimEnd())?.[1]
    if (words === undefined || /^[\w.-]+\s*[:=]\s*\S+$/.test(words)) break
    above.unshift(words)
    end = start
  }
  return above.filter((line) => !/^[-=*#~_\s]*$/.test(line)).join('\n')
}
