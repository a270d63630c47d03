import { formatOf, parse, readingFor } from '../formats/registry'
import { LineIndex } from '../text/lines'
import type { Document } from '../tree/nodes'
import { parsePointer } from '../tree/pointer'
import { toJson } from '../tree/values'
import { isJsonSchema, rulesOfSchema } from './json-schema'
import type { Rule } from './rule'
import { RuleSheetError, lineOf, ruleAt } from './sheet'

/**
 * What a description of one settings file declares: a JSON Schema, or rules of ours, as JSON or YAML.
 * @throws RuleSheetError naming the line, also where it speaks of no setting at all
 */
export function readDescription(text: string): readonly Rule[] {
  const name = /^\s*[[{]/.test(text) ? 'description.json' : 'description.yml'
  const document = parse(text, formatOf(name)!, readingFor(name))
  const wrong = document.findings.find(({ severity }) => severity === 'error')
  if (wrong) throw new RuleSheetError(wrong.message, new LineIndex(text).position(wrong.from).line)
  const data = toJson(document, document.root)
  const rules = isJsonSchema(data) ? ofSchema(document, data) : ofList(document, data)
  if (rules.length === 0)
    throw new RuleSheetError('it says nothing of any setting. It has to be a JSON Schema with “properties”, or a list of rules.', 1)
  return rules.map((rule) => ({ ...rule, source: 'declared' }))
}

function ofSchema(document: Document, data: unknown): readonly Rule[] {
  try {
    return rulesOfSchema(data)
  } catch (error) {
    if (!(error instanceof TypeError)) throw error
    const keys = parsePointer(/^the schema of (\S*):/.exec(error.message)?.[1] ?? '') ?? []
    throw new RuleSheetError(
      `${error.message}.`,
      lineOf(
        document,
        keys.flatMap((key) => ['properties', key]),
      ),
    )
  }
}

function ofList(document: Document, data: unknown): readonly Rule[] {
  const isWrapped = typeof data === 'object' && data !== null && 'rules' in data
  const list: unknown = isWrapped ? data.rules : data
  if (!Array.isArray(list)) return []
  return list.map((item: unknown, i) => ruleAt(document, item, `rule ${i + 1}`, [...(isWrapped ? ['rules'] : []), String(i)]))
}
