import { stat } from 'node:fs/promises'
import {
  FamilyError,
  LineIndex,
  checkWorkspace,
  readFamily,
  readServer,
  type Family,
  type FileFinding,
  type Workspace,
} from '@pasticcio/core'
import { CliError, EXIT } from '../errors'
import { readText } from '../files'
import { serverInFolder } from '../server-folder'
import type { Row } from '../sarif'

/** All that is wrong on a server, read from its folder. @throws CliError for a folder or a description that cannot be read */
export async function checkServer(folder: string, options: { family: string; packages?: string }): Promise<Row[]> {
  const isFolder = await stat(folder).then(
    (info) => info.isDirectory(),
    () => false,
  )
  if (!isFolder) throw new CliError(EXIT.misuse, `${folder} is no folder. With --family the folder of one server is checked.`)
  const family = await familyIn(options.family)
  const workspace = await readServer(family, await serverInFolder(folder, family, options.packages))
  return rowsOf(workspace, checkWorkspace(workspace))
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
