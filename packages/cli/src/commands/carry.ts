import { basename, join } from 'node:path'
import {
  LENIENT,
  LineIndex,
  carry,
  carryFiles,
  parse,
  type CarryFilesResult,
  type Decision,
  type Document,
  type FormatId,
  type PluginFile,
} from '@pasticcio/core'
import { CliError, EXIT } from '../errors'
import { isFolder, listFiles, readText, requireFormat, writeAtomically } from '../files'
import type { Streams } from '../streams'

export interface CarryArguments {
  readonly factory: string
  readonly mine: string
  readonly update: string
  readonly out?: string
  readonly report?: string
  readonly shape: 'update' | 'mine'
  readonly format?: FormatId
}

type Reported = Decision & { readonly file?: string }

/** `pasticcio carry`: one file, or all settings files of a folder. */
export async function runCarry(options: CarryArguments, streams: Streams): Promise<number> {
  const folder = await isFolder(options.update)
  if (folder && !options.out) throw new CliError(EXIT.misuse, 'For folders, say with --out where the results go.')
  const decisions: Reported[] = []
  const carried = await carryAll(options, folder)
  for (const file of carried.files) {
    decisions.push(...file.decisions.map((item) => (folder ? { file: file.path, ...item } : item)))
    if (file.text === null) continue
    if (folder) await writeAtomically(join(options.out!, file.path), file.text)
    else if (options.out) await writeAtomically(options.out, file.text)
    else streams.out(file.text)
  }
  const { baseline } = carried
  if (options.report) await writeAtomically(options.report, JSON.stringify({ baseline, decisions }, null, 2) + '\n')
  return summarise(decisions, baseline, streams)
}

/** Carries one file, or all of a folder at once, since settings move between files. */
async function carryAll(options: CarryArguments, folder: boolean): Promise<Pick<CarryFilesResult, 'files' | 'baseline'>> {
  const [factory, mine, update] = await Promise.all([
    options.factory === '-' ? null : readSide(options, options.factory, folder),
    readSide(options, options.mine, folder),
    readSide(options, options.update, folder),
  ])
  for (const [base, files] of [
    [options.factory, factory],
    [options.mine, mine],
    [options.update, update],
  ] as const)
    for (const file of files ?? []) requireParsed(folder ? join(base, file.path) : base, parse(file.text, file.format, LENIENT))
  const formats = new Set([...(factory ?? []), ...mine, ...update].map((file) => file.format))
  if (folder || formats.size > 1) return carryFiles({ factory, mine, update }, { shape: options.shape })
  const [only] = update
  const result = carry(
    { factory: factory?.[0]?.text ?? null, mine: mine[0]!.text, update: only!.text, format: only!.format },
    { shape: options.shape },
  )
  return { baseline: result.baseline, files: [{ path: only!.path, from: mine[0]!.path, ...result }] }
}

/** The settings files of one version; a single file stands under one name in all of them, whatever its ending. */
async function readSide(options: CarryArguments, base: string, folder: boolean): Promise<PluginFile[]> {
  if (!folder) return [{ path: basename(options.update), text: await readText(base), format: requireFormat(base, options.format) }]
  const names = await listFiles(base)
  return Promise.all(
    names.map(async (name) => ({ path: name, text: await readText(join(base, name)), format: requireFormat(name, options.format) })),
  )
}

/** @throws CliError naming file, line and cause of the first error. */
export function requireParsed(path: string, document: Document): void {
  // readers of JSON and .properties take the last of two alike keys; those of YAML refuse the file
  const error = document.findings.find(
    (finding) => finding.severity === 'error' && (finding.code !== 'duplicate-key' || document.traits.duplicates === 'refused'),
  )
  if (!error) return
  const { line, column } = new LineIndex(document.text).position(error.from)
  throw new CliError(EXIT.unparsable, `${path}:${line}:${column}: ${error.message}`)
}

function summarise(decisions: readonly Reported[], baseline: boolean, streams: Streams): number {
  const look = decisions.filter((item) => item.attention)
  for (const item of look)
    streams.err(`needs a look: ${item.file ? item.file + ' ' : ''}${item.path || '/'}: ${item.outcome}: ${item.reason}\n`)
  const kept = decisions.filter((item) => ['kept-mine', 'kept-addition', 'stays-removed', 'same-change'].includes(item.outcome)).length
  if (!baseline)
    streams.err('There is no factory copy of the old version, so everything that differs from the update was taken for yours.\n')
  streams.err(
    `${kept} of yours kept without question, ${look.length} need${look.length === 1 ? 's' : ''} a look, ${decisions.filter((item) => item.outcome === 'added-by-update').length} new in the update.\n`,
  )
  return look.length > 0 || !baseline ? EXIT.look : EXIT.done
}
