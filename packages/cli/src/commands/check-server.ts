import { stat } from 'node:fs/promises'
import {
  FamilyError,
  LineIndex,
  RuleSheetError,
  checkWorkspace,
  readFamily,
  readRuleSheet,
  readServer,
  type Family,
  type FileFinding,
  type RuleSheet,
  type Workspace,
} from '@pasticcio/core'
import { CliError, EXIT } from '../errors'
import { readText } from '../files'
import { serverInFolder } from '../server-folder'
import type { Row } from '../sarif'

export interface ServerOptions {
  /** The description of its family. */
  readonly family: string
  readonly packages?: string
  /** A rule sheet. */
  readonly rules?: string
}

/** All that is wrong on a server, read from its folder. @throws CliError for a folder or a description that cannot be read */
export async function checkServer(folder: string, options: ServerOptions): Promise<Row[]> {
  const isFolder = await stat(folder).then(
    (info) => info.isDirectory(),
    () => false,
  )
  if (!isFolder) throw new CliError(EXIT.misuse, `${folder} is no folder. With --family the folder of one server is checked.`)
  const family = await familyIn(options.family)
  const sheet = options.rules === undefined ? null : await sheetIn(options.rules)
  const source = await serverInFolder(folder, family, options.packages)
  const isMeant = ({ name, version }: { name: string; version: string }): boolean =>
    sheet?.plugin === name && source.satisfies(version, sheet.versions)
  const workspace = await readServer(family, { ...source, said: (plugin) => (isMeant(plugin) ? sheet!.files : {}) })
  return rowsOf(workspace, checkWorkspace(workspace))
}

/** @throws CliError naming the line that is to be mended */
async function sheetIn(path: string): Promise<RuleSheet> {
  const text = await readText(path)
  try {
    return readRuleSheet(text)
  } catch (error) {
    if (error instanceof RuleSheetError) throw new CliError(EXIT.misuse, `${path} line ${error.line}: ${error.message}`, { cause: error })
    throw error
  }
}

async function familyIn(path: string): Promise<Family> {
  const text = await readText(path)
  try {
    return readFamily(text)
  } catch (error) {
    if (error instanceof FamilyError)
      throw new CliError(EXIT.misuse, `${path} is no description of a server family: ${error.message}`, { cause: error })
    throw error
  }
}

/** Findings with line and column, in the order of their files. */
export function rowsOf(workspace: Workspace, findings: readonly FileFinding[]): Row[] {
  const indexes = new Map<string, LineIndex>()
  const at = (file: string, from: number, line?: number): { line: number; column: number } => {
    const document = workspace.files.get(file)?.document
    if (!document || line !== undefined) return { line: line ?? 1, column: 1 }
    if (!indexes.has(file)) indexes.set(file, new LineIndex(document.text))
    return indexes.get(file)!.position(from)
  }
  return findings.map(({ file, from, line, severity, code, message, related }) => ({
    file,
    ...at(file, from, line),
    severity,
    code,
    message,
    ...(related ? { related: related.map((one) => ({ file: one.file, line: at(one.file, one.from).line, why: one.why })) } : {}),
  }))
}
