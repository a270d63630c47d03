import { array, lazy, mixed, object, string, ValidationError } from 'yup'
import { parse, readingFor } from '../formats/registry'
import { yamlFormat } from '../formats/yaml/format'
import { LineIndex } from '../text/lines'
import type { Document } from '../tree/nodes'
import { locate } from '../tree/pointer'
import { toJson } from '../tree/values'
import { readRule, type Rule } from './rule'

/** What people say the settings of one plugin are, to be kept, shared and taken in elsewhere; docs/rules.md describes the file. */
export interface RuleSheet {
  readonly plugin: string
  /** The versions of the plugin it is for, as a range. */
  readonly versions: string
  /** By the names of files as the plugin calls them. */
  readonly files: Readonly<Record<string, readonly Rule[]>>
}

/** A text that is no rule sheet or description of settings, with the line that is to be mended. */
export class RuleSheetError extends Error {
  readonly code = 'bad-sheet'

  constructor(
    message: string,
    readonly line: number,
  ) {
    super(message)
  }
}

const HEAD = '# What the settings of a plugin may be, as people say (docs/rules.md of Pasticcio).\n'

/** Writes a rule sheet as YAML, in an order that is always the same. */
export function writeRuleSheet({ plugin, versions, files }: RuleSheet): string {
  const rule = ({ source: _source, ...parts }: Rule): string =>
    Object.entries(parts)
      .map(([part, value], i) => `${i === 0 ? '    - ' : '      '}${part}: ${JSON.stringify(value)}\n`)
      .join('')
  const lists = Object.entries(files)
    .filter(([, rules]) => rules.length > 0)
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(
      ([file, rules]) =>
        `  ${JSON.stringify(file)}:\n${[...rules]
          .sort((a, b) => (a.path < b.path ? -1 : 1))
          .map(rule)
          .join('')}`,
    )
  const head = `${HEAD}plugin: ${JSON.stringify(plugin)}\nversions: ${JSON.stringify(versions)}\n`
  return head + (lists.length > 0 ? `files:\n${lists.join('')}` : 'files: {}\n')
}

const sheetSchema = object({
  plugin: string().strict().required(),
  versions: string().strict(),
  files: lazy((value: unknown) =>
    object(
      Object.fromEntries(
        Object.keys(typeof value === 'object' && value !== null ? value : {}).map((file) => [
          file,
          array(mixed().required()).strict().required(),
        ]),
      ),
    ).required('files is missing: it says which settings are what, by the names of files'),
  ),
})
  .noUnknown()
  .strict()

/** Reads a rule sheet. @throws RuleSheetError naming the line */
export function readRuleSheet(text: string): RuleSheet {
  const document = parse(text, yamlFormat.id, readingFor('sheet.yml'))
  const wrong = document.findings.find(({ severity }) => severity === 'error')
  if (wrong) throw new RuleSheetError(wrong.message, new LineIndex(text).position(wrong.from).line)
  const data = checked(document)
  const files = Object.entries(data.files).map(([file, list]): [string, Rule[]] => [
    file,
    list.map((item, i): Rule => ({ ...ruleAt(document, item, `rule ${i + 1} of ${file}`, ['files', file, String(i)]), source: 'yours' })),
  ])
  // what says no versions is for all of them
  return { plugin: data.plugin, versions: data.versions ?? '*', files: Object.fromEntries(files) }
}

function checked(document: Document): { plugin: string; versions?: string; files: Record<string, unknown[]> } {
  try {
    return sheetSchema.validateSync(toJson(document, document.root)) as never
  } catch (error) {
    if (!(error instanceof ValidationError)) throw error
    // Yup writes names with dots in them as ["a.yml"]
    const keys = [...(error.path ?? '').matchAll(/\["([^"]*)"\]|([^.[\]]+)/g)].map(([, quoted, bare]) => quoted ?? bare ?? '')
    throw new RuleSheetError(`${error.message}.`, lineOf(document, keys))
  }
}

/** Reads one rule. @param keys where it stands @throws RuleSheetError naming its line */
export function ruleAt(document: Document, item: unknown, name: string, keys: readonly string[]): Rule {
  try {
    return readRule(item, name)
  } catch (error) {
    if (!(error instanceof TypeError)) throw error
    throw new RuleSheetError(`${error.message}.`, lineOf(document, keys))
  }
}

/** The line of a place in a document, or of what it would be in. */
export function lineOf(document: Document, keys: readonly string[]): number {
  for (let depth = keys.length; depth > 0; depth--) {
    const entry = locate(document, keys.slice(0, depth))?.entry
    if (entry) return new LineIndex(document.text).position(entry.from).line
  }
  return 1
}
