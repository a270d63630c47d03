import { join } from 'node:path'
import { LineIndex, carry, parse, type CarryResult, type Decision, type Document, type FormatId } from '@pasticcio/core'
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
  let baseline = true
  if (folder) {
    for (const name of await listFiles(options.update)) {
      const result = await carryOne(options, name)
      baseline &&= result.baseline
      decisions.push(...result.decisions.map((item) => ({ file: name, ...item })))
      await writeAtomically(join(options.out!, name), result.text)
    }
    decisions.push(...(await filesGone(options)))
  } else {
    const result = await carryOne(options, null)
    baseline = result.baseline
    decisions.push(...result.decisions)
    if (options.out) await writeAtomically(options.out, result.text)
    else streams.out(result.text)
  }
  if (options.report) await writeAtomically(options.report, JSON.stringify({ baseline, decisions }, null, 2) + '\n')
  return summarise(decisions, baseline, streams)
}

async function carryOne(options: CarryArguments, name: string | null): Promise<CarryResult> {
  const at = (base: string): string => (name === null ? base : join(base, name))
  const format = requireFormat(name ?? options.update, options.format)
  const update = await readText(at(options.update))
  const mine = name === null ? await readText(options.mine) : await readText(at(options.mine)).catch(() => null)
  const factory = options.factory === '-' ? null : name === null ? await readText(options.factory) : await readText(at(options.factory)).catch(() => null)
  if (mine === null) return { text: update, decisions: [], baseline: true, broken: [] }
  for (const [path, text] of [[at(options.factory), factory], [at(options.mine), mine], [at(options.update), update]] as const)
    if (text !== null) requireParsed(path, parse(text, format, { relaxed: true }))
  return carry({ factory, mine, update, format }, { shape: options.shape })
}

/** @throws CliError naming file, line and cause of the first error. */
export function requireParsed(path: string, document: Document): void {
  // readers of JSON and .properties take the last of two alike keys; those of YAML refuse the file
  const error = document.findings.find((finding) => finding.severity === 'error' && (finding.code !== 'duplicate-key' || document.format === 'yaml'))
  if (!error) return
  const { line, column } = new LineIndex(document.text).position(error.from)
  throw new CliError(EXIT.unparsable, `${path}:${line}:${column}: ${error.message}`)
}

/** Files of mine that the update does not have are named; nothing of them is lost. */
async function filesGone(options: CarryArguments): Promise<Reported[]> {
  const there = new Set(await listFiles(options.update))
  const gone: Reported[] = []
  for (const name of await listFiles(options.mine)) {
    if (there.has(name)) continue
    const mine = await readText(join(options.mine, name))
    const factory = options.factory === '-' ? null : await readText(join(options.factory, name)).catch(() => null)
    if (factory === mine) continue
    gone.push({ id: `file:${name}`, file: name, path: '', outcome: 'kept-aside', attention: true, mine, reason: 'the update has no such file, and yours differs from the factory copy' })
  }
  return gone
}

function summarise(decisions: readonly Reported[], baseline: boolean, streams: Streams): number {
  const look = decisions.filter((item) => item.attention)
  for (const item of look) streams.err(`needs a look: ${item.file ? item.file + ' ' : ''}${item.path || '/'}: ${item.outcome}: ${item.reason}\n`)
  const kept = decisions.filter((item) => ['kept-mine', 'kept-addition', 'stays-removed', 'same-change'].includes(item.outcome)).length
  if (!baseline) streams.err('There is no factory copy of the old version, so everything that differs from the update was taken for yours.\n')
  streams.err(`${kept} of yours kept without question, ${look.length} need${look.length === 1 ? 's' : ''} a look, ${decisions.filter((item) => item.outcome === 'added-by-update').length} new in the update.\n`)
  return look.length > 0 || !baseline ? EXIT.look : EXIT.done
}
