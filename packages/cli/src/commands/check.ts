import { join } from 'node:path'
import {
  RuleSheetError,
  checkWorkspace,
  lenient,
  parse,
  readDescription,
  readingFor,
  workspaceOf,
  type FormatId,
  type Rule,
  type WorkspaceFile,
} from '@pasticcio/core'
import { CliError, EXIT } from '../errors'
import { VERSION } from '../version'
import { sarifOf, type Row } from '../sarif'
import { checkServer, rowsOf, type ServerOptions } from './check-server'
import { isFolder, listFiles, readText, requireFormat } from '../files'
import type { Streams } from '../streams'

/** `pasticcio check`: mistakes in files, in all settings files of folders, and on whole servers. */
export async function runCheck(
  paths: readonly string[],
  options: {
    rules?: string
    json?: boolean
    sarif?: boolean
    relaxedJson?: boolean
    format?: FormatId
    family?: string
    packages?: string
  },
  streams: Streams,
): Promise<number> {
  const rows =
    options.family === undefined
      ? await checkFiles(paths, options)
      : await checkServers(paths, { ...options, family: options.family }, streams)
  if (options.sarif) streams.out(JSON.stringify(sarifOf(rows, VERSION), null, 2) + '\n')
  else if (options.json) streams.out(JSON.stringify(rows, null, 2) + '\n')
  else for (const row of rows) streams.out(`${row.file}:${row.line}:${row.column}: ${row.severity}: ${row.message} (${row.code})\n`)
  return rows.some((row) => row.severity === 'error') ? EXIT.look : EXIT.done
}

/** Each path is the folder of one server; files of several begin with the folder they are in. */
async function checkServers(paths: readonly string[], options: ServerOptions, streams: Streams): Promise<Row[]> {
  const all: Row[] = []
  for (const path of paths) {
    const rows = await checkServer(path, options, streams)
    all.push(...(paths.length === 1 ? rows : rows.map((row) => ({ ...row, file: join(path, row.file) }))))
  }
  return all
}

async function checkFiles(paths: readonly string[], options: { rules?: string; relaxedJson?: boolean; format?: FormatId }): Promise<Row[]> {
  const rules = options.rules ? await loadRules(options.rules) : []
  const files: WorkspaceFile[] = []
  for (const path of await expand(paths)) {
    const reading = options.relaxedJson ? lenient(readingFor(path)) : readingFor(path)
    const text = await readText(path)
    const format = requireFormat(path, options.format)
    files.push({ path, plugin: null, document: parse(text, format, reading), factory: null, rules })
  }
  const workspace = workspaceOf(files)
  return rowsOf(checkWorkspace(workspace), (file) => workspace.files.get(file)?.document.text ?? null)
}

async function expand(paths: readonly string[]): Promise<string[]> {
  const all: string[] = []
  for (const path of paths) all.push(...((await isFolder(path)) ? (await listFiles(path)).map((name) => join(path, name)) : [path]))
  return all
}

async function loadRules(path: string): Promise<readonly Rule[]> {
  const text = await readText(path)
  try {
    return readDescription(text)
  } catch (error) {
    if (!(error instanceof RuleSheetError)) throw error
    throw new CliError(EXIT.misuse, `Line ${error.line} of ${path}: ${error.message}`, { cause: error })
  }
}
