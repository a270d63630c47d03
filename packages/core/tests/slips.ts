import { LineIndex } from '../src/text/lines'
import { LENIENT } from '../src/formats/reading'
import { parse } from '../src/formats/registry'
import type { FormatId } from '../src/tree/nodes'

/** A slip of the pen in an otherwise intact file, and the line a finding should name. */
export interface Slip {
  readonly kind: string
  readonly text: string
  readonly line: number
}

export interface Judged extends Slip {
  readonly found: boolean
  readonly exact: boolean
  readonly single: boolean
  readonly said: string
}

type Maker = (lines: readonly string[], at: number) => { lines: string[]; line: number } | null

const changed = (lines: readonly string[], at: number, to: string): { lines: string[]; line: number } | null =>
  lines[at] === to ? null : { lines: lines.map((line, i) => (i === at ? to : line)), line: at + 1 }
const indentOf = (line: string): number => /^ */.exec(line)![0].length
const isBlank = (line: string | undefined): boolean => line === undefined || /^\s*(#|\/\/|--|$)/.test(line)

/** The line that opened the bracket which a line closing alone belongs to, by indentation. */
function opener(lines: readonly string[], at: number): number {
  const indent = indentOf(lines[at]!)
  for (let i = at - 1; i >= 0; i--)
    if (!isBlank(lines[i]) && indentOf(lines[i]!) === indent && /[[{(]\s*((\/\/|#|--).*)?$/.test(lines[i]!)) return i
  return -1
}

const YAML: Readonly<Record<string, Maker>> = {
  'no space behind the colon': (lines, at) =>
    /^\s*(- )?[\w-]+: [\w"'][^:#]*$/.test(lines[at]!) ? changed(lines, at, lines[at]!.replace(/: /, ':')) : null,
  'no space, a quoted value': (lines, at) =>
    /^\s*[\w-]+: ("[^"\\]*"|'[^']*')$/.test(lines[at]!) ? changed(lines, at, lines[at]!.replace(/: /, ':')) : null,
  'no space, the first key of an item': (lines, at) =>
    /^\s*- [\w-]+: [\w"'/^(][^:#]*$/.test(lines[at]!) ? changed(lines, at, lines[at]!.replace(/: /, ':')) : null,
  'no space, a pattern': (lines, at) =>
    /^\s*[\w-]+: [a-z]\w*$/.test(lines[at]!) ? changed(lines, at, lines[at]!.replace(/: .*/, ':^[a-z]+(x|y)$')) : null,
  'no space behind the dash': (lines, at) =>
    /^\s*- [a-z]\w*$/.test(lines[at]!) ? changed(lines, at, lines[at]!.replace('- ', '-')) : null,
  'no colon': (lines, at) =>
    /^\s*[\w-]+: \S/.test(lines[at]!) &&
    !/: [|>&]/.test(lines[at]!) &&
    /^\s*[\w-]+:/.test(lines[at - 1] ?? '') &&
    indentOf(lines[at - 1]!) === indentOf(lines[at]!)
      ? changed(lines, at, lines[at]!.replace(/:/, ''))
      : null,
  'a tab': (lines, at) => (/^ {2,}[\w-]+:/.test(lines[at]!) ? changed(lines, at, lines[at]!.replace(/^ {2}/, '\t')) : null),
  'one space too few': (lines, at) =>
    /^ {2,}[\w-]+:/.test(lines[at]!) && indentOf(lines[at - 1] ?? '') === indentOf(lines[at]!) && !isBlank(lines[at - 1])
      ? changed(lines, at, lines[at]!.slice(1))
      : null,
  'one space too many': (lines, at) =>
    /^ *[\w-]+: \S/.test(lines[at]!) &&
    indentOf(lines[at - 1] ?? 'x') === indentOf(lines[at]!) &&
    /^\s*[\w-]+: [^|>\s]/.test(lines[at - 1] ?? '')
      ? changed(lines, at, ' ' + lines[at]!)
      : null,
  'a quote left open': (lines, at) => (/: "[^"\\]*"$/.test(lines[at]!) ? changed(lines, at, lines[at]!.slice(0, -1)) : null),
  'a bracket left open': (lines, at) => (/: \[[^\]{}[]*\]$/.test(lines[at]!) ? changed(lines, at, lines[at]!.slice(0, -1)) : null),
  'a key twice': (lines, at) =>
    /^\s*[\w-]+: [^|>&{["'\s][^#]*$/.test(lines[at]!) && indentOf(lines[at + 1] ?? '') <= indentOf(lines[at]!)
      ? { lines: [...lines.slice(0, at + 1), lines[at]!, ...lines.slice(at + 1)], line: at + 2 }
      : null,
  'curly quotes': (lines, at) => (/: "[^"\\]+"$/.test(lines[at]!) ? changed(lines, at, lines[at]!.replace(/"([^"]*)"$/, '“$1”')) : null),
  'a colour as a comment': (lines, at) =>
    /^\s*[\w-]+: [\w.]+$/.test(lines[at]!) ? changed(lines, at, lines[at]!.replace(/: .*/, ': #c98a0b')) : null,
  'a text as an anchor': (lines, at) =>
    /^\s*[\w-]+: [a-z]\w*$/.test(lines[at]!) ? changed(lines, at, lines[at]!.replace(/: /, ': &')) : null,
  'an at sign': (lines, at) => (/^\s*[\w-]+: [a-z]\w*$/.test(lines[at]!) ? changed(lines, at, lines[at]!.replace(/: /, ': @')) : null),
}

const JSON_SLIPS: Readonly<Record<string, Maker>> = {
  'no comma': (lines, at) =>
    /[\w"\]}],$/.test(lines[at]!) && !isBlank(lines[at]) && !/^\s*[\]}]/.test(lines[at + 1] ?? '}')
      ? changed(lines, at, lines[at]!.slice(0, -1))
      : null,
  'a comma too many': (lines, at) =>
    /^\s*"[^"]*": [^[{,]*[\w"]$/.test(lines[at]!) && /^\s*[\]}]/.test(lines[at + 1] ?? '') ? changed(lines, at, lines[at]! + ',,') : null,
  'a quote left open': (lines, at) =>
    /: "[^"\\,:{}]+",?$/.test(lines[at]!)
      ? changed(
          lines,
          at,
          lines[at]!.replace(/",?$/, (end) => end.slice(1)),
        )
      : null,
  'the quote before a name missing': (lines, at) =>
    /^\s*"[\w -]+": /.test(lines[at]!) ? changed(lines, at, lines[at]!.replace('"', '')) : null,
  'the quote behind a name missing': (lines, at) =>
    /^\s*"[\w -]+": /.test(lines[at]!) ? changed(lines, at, lines[at]!.replace('":', ':')) : null,
  'the quote before a text missing': (lines, at) =>
    /: "[\w][^"\\,:{}]*",?$/.test(lines[at]!) ? changed(lines, at, lines[at]!.replace(/: "/, ': ')) : null,
  'no colon': (lines, at) => (/^\s*"[^"]*": ["\w]/.test(lines[at]!) ? changed(lines, at, lines[at]!.replace('":', '"')) : null),
  'an equals sign': (lines, at) => (/^\s*"[^"]*": /.test(lines[at]!) ? changed(lines, at, lines[at]!.replace('":', '" =')) : null),
  'curly quotes': (lines, at) =>
    /: "[^"\\]+",?$/.test(lines[at]!) ? changed(lines, at, lines[at]!.replace(/"([^"]*)"(,?)$/, '“$1”$2')) : null,
  'single quotes': (lines, at) =>
    /: "[^"'\\]+",?$/.test(lines[at]!) ? changed(lines, at, lines[at]!.replace(/"([^"]*)"(,?)$/, "'$1'$2")) : null,
  'a name without quotes': (lines, at) =>
    /^\s*"[\w-]+":/.test(lines[at]!) ? changed(lines, at, lines[at]!.replace(/"([\w-]+)":/, '$1:')) : null,
  'a bracket left open': (lines, at) => {
    const from = /^\s*[\]}],?$/.test(lines[at]!) && at < lines.length - 2 ? opener(lines, at) : -1
    return from < 0 ? null : { lines: lines.filter((_line, i) => i !== at), line: from + 1 }
  },
  'a key twice': (lines, at) =>
    /^\s*"[^"]*": [^[{]*,$/.test(lines[at]!)
      ? { lines: [...lines.slice(0, at + 1), lines[at]!, ...lines.slice(at + 1)], line: at + 2 }
      : null,
}

const LUA: Readonly<Record<string, Maker>> = {
  'no comma': (lines, at) =>
    /^\s+[\w.[\]"']+ = .*[\w"'}],$/.test(lines[at]!) && /^\s+[\w["'{]/.test(lines[at + 1] ?? '')
      ? changed(lines, at, lines[at]!.slice(0, -1))
      : null,
  'two commas': (lines, at) => (/^\s+[\w.]+ = .*,$/.test(lines[at]!) ? changed(lines, at, lines[at]! + ',') : null),
  'a quote left open': (lines, at) =>
    /= "[^"'\\,{}]+",?$/.test(lines[at]!)
      ? changed(
          lines,
          at,
          lines[at]!.replace(/",?$/, (end) => end.slice(1)),
        )
      : null,
  'a colon': (lines, at) => (/^\s+\w+ = [\d"tf{]/.test(lines[at]!) ? changed(lines, at, lines[at]!.replace(' =', ':')) : null),
  'no equals sign': (lines, at) => (/^\s+\w+ = \d/.test(lines[at]!) ? changed(lines, at, lines[at]!.replace(' =', '')) : null),
  'curly quotes': (lines, at) =>
    /= "[^"\\]+",?$/.test(lines[at]!) ? changed(lines, at, lines[at]!.replace(/"([^"]*)"(,?)$/, '“$1”$2')) : null,
  'a comment of another language': (lines, at) =>
    /[\w"'}),]\s+-- ?\w/.test(lines[at]!) ? changed(lines, at, lines[at]!.replace(/--/, '//')) : null,
  'a parenthesis left open': (lines, at) =>
    /\w\([^()"']*\)[^()"']*$/.test(lines[at]!) && !/\bfunction\b/.test(lines[at]!)
      ? changed(lines, at, lines[at]!.replace(/\)([^)]*)$/, '$1'))
      : null,
  'a square bracket left open': (lines, at) =>
    /\[("[^"]*"|\w+)\]\s*=/.test(lines[at]!) ? changed(lines, at, lines[at]!.replace(/\](\s*=)/, '$1')) : null,
  'a brace left open': (lines, at) => {
    const from = /^\s*\},?$/.test(lines[at]!) && at < lines.length - 1 ? opener(lines, at) : -1
    return from < 0 ? null : { lines: lines.filter((_line, i) => i !== at), line: from + 1 }
  },
}

const XML: Readonly<Record<string, Maker>> = {
  'an element left open': (lines, at) =>
    /^\s*<([\w-]+)>[^<]+<\/\1>$/.test(lines[at]!) ? changed(lines, at, lines[at]!.replace(/<\/.*/, '')) : null,
  'another name at the end': (lines, at) =>
    /^\s*<([\w-]+)>[^<]*<\/\1>$/.test(lines[at]!) ? changed(lines, at, lines[at]!.replace(/<\/\w/, '</Q')) : null,
  'a bare ampersand': (lines, at) =>
    />[a-z]+</.test(lines[at]!) ? changed(lines, at, lines[at]!.replace(/>([a-z]+)</, '>$1 & co<')) : null,
}

export const SLIPS: Readonly<Partial<Record<FormatId, Readonly<Record<string, Maker>>>>> = {
  yaml: YAML,
  json: JSON_SLIPS,
  lua: LUA,
  xml: XML,
}

/** Every slip of every kind that a text gives rise to, at most so many of each, spread over it. */
export function slipsIn(text: string, format: FormatId, most: number, random: () => number): Slip[] {
  const lines = text.split('\n')
  return Object.entries(SLIPS[format] ?? {}).flatMap(([kind, make]) => {
    const all = lines.flatMap((_line, at) => {
      const made = isBlank(lines[at]) ? null : make(lines, at)
      return made ? [{ kind, text: made.lines.join('\n'), line: made.line }] : []
    })
    return all
      .map((slip) => [random(), slip] as const)
      .sort((a, b) => a[0] - b[0])
      .slice(0, most)
      .map(([, slip]) => slip)
  })
}

/** What the reader says about a slip: notes about older readers do not count. */
export function judge(slip: Slip, format: FormatId, reading = LENIENT): Judged {
  const { findings } = parse(slip.text, format, reading)
  const index = new LineIndex(slip.text)
  const said = findings.filter((finding) => finding.severity !== 'note')
  return {
    ...slip,
    found: said.length > 0,
    single: said.length === 1,
    exact: said.length > 0 && index.position(said[0]!.from).line === slip.line,
    said: said.map((finding) => `${index.position(finding.from).line} ${finding.code}`).join(', '),
  }
}
