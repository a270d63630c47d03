import {
  OperationError,
  addEntry,
  applyEdits,
  formatPointer,
  getNode,
  lenient,
  parse,
  parseLike,
  parsePointer,
  readingFor,
  readTyped,
  setValue,
  toJson,
  type Document,
  type Edit,
  type FormatId,
} from '@pasticcio/core'
import { CliError, EXIT } from '../errors'
import { readText, requireFormat, writeAtomically } from '../files'
import type { Streams } from '../streams'
import { requireParsed } from './carry'

/** `pasticcio get`: a scalar as text, sections and lists as JSON. */
export async function runGet(path: string, pointer: string, options: { format?: FormatId }, streams: Streams): Promise<number> {
  const document = await load(path, options.format)
  const node = getNode(document, requirePointer(pointer))
  if (!node) throw new CliError(EXIT.misuse, `${path} has no setting ${pointer}`)
  const value = toJson(document, node)
  streams.out(
    (node.type === 'scalar' && node.kind === 'number'
      ? document.text.slice(node.from, node.to)
      : typeof value === 'string'
        ? value
        : JSON.stringify(value, null, 2)) + '\n',
  )
  return EXIT.done
}

/** `pasticcio set`: one value in place; a setting that is not there yet is added to its section. */
export async function runSet(
  path: string,
  pointer: string,
  value: string,
  options: { format?: FormatId },
  streams: Streams,
): Promise<number> {
  const document = await load(path, options.format)
  const keys = requirePointer(pointer)
  const edits = work(path, () => editsFor(document, keys, value))
  if (edits.length === 0) {
    streams.err(`${path}: ${pointer} is ${value} already.\n`)
    return EXIT.done
  }
  const text = applyEdits(document.text, edits)
  requireParsed(`${path} after the change`, parseLike(document, text))
  await writeAtomically(path, text)
  return EXIT.done
}

function editsFor(document: Document, keys: readonly string[], value: string): Edit[] {
  if (keys.length === 0) throw new CliError(EXIT.misuse, 'The whole file cannot be set; name a setting, as in /economy/start.')
  if (getNode(document, keys)) return setValue(document, keys, readTyped(value))
  return addEntry(document, keys.slice(0, -1), keys[keys.length - 1]!, readTyped(value))
}

function work<T>(path: string, job: () => T): T {
  try {
    return job()
  } catch (error) {
    if (error instanceof OperationError) throw new CliError(EXIT.misuse, `${path}: ${error.message}`, { cause: error })
    throw error
  }
}

async function load(path: string, format: FormatId | undefined): Promise<Document> {
  const document = parse(await readText(path), requireFormat(path, format), lenient(readingFor(path)))
  requireParsed(path, document)
  return document
}

function requirePointer(pointer: string): string[] {
  const keys = parsePointer(pointer)
  if (!keys)
    throw new CliError(
      EXIT.misuse,
      `“${pointer}” is no JSON Pointer; it starts with a slash, as in ${formatPointer(['economy', 'start'])}.`,
    )
  return keys
}
