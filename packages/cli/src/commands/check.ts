import { join } from 'node:path'
import {
  LineIndex,
  checkWorkspace,
  isJsonSchema,
  lenient,
  parse,
  readRules,
  readingFor,
  rulesOfSchema,
  workspaceOf,
  type FormatId,
  type Rule,
  type WorkspaceFile,
} from '@pasticcio/core'
import { CliError, EXIT } from '../errors'
import { isFolder, listFiles, readText, requireFormat } from '../files'
import type { Streams } from '../streams'

/** `pasticcio check`: mistakes in files, and in all settings files of folders. */
export async function runCheck(
  paths: readonly string[],
  options: { rules?: string; json?: boolean; relaxedJson?: boolean; format?: FormatId },
  streams: Streams,
): Promise<number> {
  const rules = options.rules ? await loadRules(options.rules) : []
  const files: WorkspaceFile[] = []
  for (const path of await expand(paths)) {
    const reading = options.relaxedJson ? lenient(readingFor(path)) : readingFor(path)
    const text = await readText(path)
    const format = requireFormat(path, options.format)
    files.push({ path, plugin: null, document: parse(text, format, reading), factory: null, rules })
  }
  const workspace = workspaceOf(files)
  const rows = checkWorkspace(workspace).map(({ file, severity, code, message, from }) => {
    const { line, column } = new LineIndex(workspace.files.get(file)!.document.text).position(from)
    return { file, line, column, severity, code, message }
  })
  if (options.json) streams.out(JSON.stringify(rows, null, 2) + '\n')
  else for (const row of rows) streams.out(`${row.file}:${row.line}:${row.column}: ${row.severity}: ${row.message} (${row.code})\n`)
  return rows.some((row) => row.severity === 'error') ? EXIT.look : EXIT.done
}

async function expand(paths: readonly string[]): Promise<string[]> {
  const all: string[] = []
  for (const path of paths) all.push(...((await isFolder(path)) ? (await listFiles(path)).map((name) => join(path, name)) : [path]))
  return all
}

async function loadRules(path: string): Promise<readonly Rule[]> {
  const text = await readText(path)
  try {
    const data: unknown = JSON.parse(text)
    return isJsonSchema(data) ? rulesOfSchema(data) : readRules(data)
  } catch (error) {
    throw new CliError(EXIT.misuse, `${path} holds no rules: ${(error as Error).message}`, { cause: error })
  }
}
