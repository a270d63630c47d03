import { stat } from 'node:fs/promises'
import { Checkers } from '@pasticcio/check'
import {
  FamilyError,
  LineIndex,
  RuleSheetError,
  checkAcross,
  findingsInOrder,
  readFamily,
  readFiles,
  readRuleSheet,
  type Family,
  type FileFacts,
  type FileFinding,
  type RuleSheet,
  type ServerFiles,
} from '@pasticcio/core'
import { CliError, EXIT } from '../errors'
import { readText } from '../files'
import { serverInFolder } from '../server-folder'
import type { Row } from '../sarif'
import type { Streams } from '../streams'
import { threadProgram } from '../thread-program'

export interface ServerOptions {
  /** The description of its family. */
  readonly family: string
  readonly packages?: string
  /** A rule sheet. */
  readonly rules?: string
}

/** All that is wrong on a server, read from its folder. @throws CliError for a folder or a description that cannot be read */
export async function checkServer(folder: string, options: ServerOptions, streams: Streams): Promise<Row[]> {
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
  const server = await readFiles(family, { ...source, said: (plugin) => (isMeant(plugin) ? sheet!.files : {}) })
  const texts = new Map(server.inputs.map(({ path, text }) => [path, text]))
  return rowsOf(await findingsIn(server, streams), (file) => texts.get(file) ?? null)
}

/** Looks into all files, in threads where there are many, and at what they have to do with each other. */
async function findingsIn({ inputs, knowledge, family }: ServerFiles, { progress }: Streams): Promise<FileFinding[]> {
  const facts = new Map<string, FileFacts>()
  const findings: FileFinding[] = []
  let count = 0
  const checkers = new Checkers(threadProgram)
  try {
    await checkers.look(inputs, knowledge, {
      done(files, looked) {
        files.forEach(({ path }, i) => {
          findings.push(...looked[i]!.findings)
          if (looked[i]!.facts) facts.set(path, looked[i]!.facts!)
        })
        progress?.(`${(count += files.length)} of ${inputs.length} files`)
        return true
      },
      failed({ path: file }) {
        const message = 'It costs more to check than a file may. Look whether it is what it should be.'
        findings.push({ file, check: 'reads', code: 'too-deep', severity: 'error', from: 0, to: 0, message })
      },
    })
  } finally {
    progress?.('')
    await checkers.close()
  }
  return findingsInOrder([...findings, ...checkAcross({ family, knowledge }, facts)])
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

/** Findings with line and column. @param textOf the text of a file; null for what was not read as settings */
export function rowsOf(findings: readonly FileFinding[], textOf: (file: string) => string | null): Row[] {
  const indexes = new Map<string, LineIndex>()
  const at = (file: string, from: number, line?: number): { line: number; column: number } => {
    const text = textOf(file)
    if (text === null || line !== undefined) return { line: line ?? 1, column: 1 }
    if (!indexes.has(file)) indexes.set(file, new LineIndex(text))
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
