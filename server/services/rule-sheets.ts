import { RuleSheetError, nameOf, pathOf, readDescription, readRuleSheet, writeRuleSheet, type Rule } from '@pasticcio/core'
import type { Context, Server } from './context'
import type { Description } from '../db/repositories/rules'
import { ServiceError, notFound } from './errors'
import { note } from './note'
import { requireOwner } from './settings'
import { inRange } from './versions'

/** A rule sheet as a file. */
export interface SheetFile {
  readonly name: string
  readonly text: string
  /** How many settings it speaks of. */
  readonly rules: number
  /** Descriptions that were attached to files of the plugin: they are no part of the sheet. */
  readonly descriptions: readonly Pick<Description, 'path' | 'name' | 'by' | 'at'>[]
}

/** What people say the settings of a plugin are, as a rule sheet for its version and those after it. @throws ServiceError `not-found` */
export async function sheetOf(context: Context, server: Server, name: string): Promise<SheetFile> {
  const plugin = await server.inventory.require(name)
  const given = await context.rules.of(server.row.id)
  const files: Record<string, readonly Rule[]> = {}
  for (const { path } of plugin.files) {
    const rules = given.get(path)?.filter(({ source }) => source === 'yours')
    if (rules?.length) files[nameOf(server.family, plugin, path)] = rules
  }
  const text = writeRuleSheet({ plugin: name, versions: `>=${plugin.version}`, files })
  const own = new Set(plugin.files.map(({ path }) => path))
  const descriptions = (await context.rules.descriptions(server.row.id))
    .filter(({ path }) => own.has(path))
    .map(({ text: _text, ...description }) => description)
  return { name: `${name}-${plugin.version}.rules.yml`, text, rules: Object.values(files).flat().length, descriptions }
}

/**
 * Takes in what a rule sheet says: its rules take the place of those of the same settings, and others stay.
 * @returns how many rules it holds
 * @throws ServiceError `bad-input` naming the line, `not-found` for no such plugin, `does-not-fit` for other versions of it
 */
export async function takeSheet(
  context: Context,
  server: Server,
  text: string,
  by: string,
): Promise<{ readonly plugin: string; readonly rules: number }> {
  const sheet = read(text)
  const plugin = await server.inventory.require(sheet.plugin)
  if (!inRange(plugin.version, sheet.versions))
    throw new ServiceError(
      'does-not-fit',
      422,
      `This sheet is for ${sheet.plugin} ${sheet.versions}, and ${plugin.version} is here. Change “versions” in it, if it holds for that too.`,
    )
  const known = new Map(plugin.files.map(({ path }) => [path, path]))
  const rules = Object.entries(sheet.files).flatMap(([file, list]) => {
    const path = known.get(pathOf(server.family, plugin, file))
    if (path === undefined && list.length > 0)
      throw new ServiceError(
        'bad-input',
        400,
        `${sheet.plugin} has no settings file ${file} here. Take it out of the sheet, or start the server once, so that it is written.`,
      )
    return list.map((rule) => ({ path: path!, rule }))
  })
  for (const { path, rule } of rules) await context.rules.save(server.row.id, { path, rule, by, at: context.now().toISOString() })
  await note(context, by, 'rules', `${rules.length} of a sheet for ${sheet.plugin}`, server)
  return { plugin: sheet.plugin, rules: rules.length }
}

const read = (text: string): ReturnType<typeof readRuleSheet> => readAs('the rule sheet', () => readRuleSheet(text))

function readAs<T>(what: string, work: () => T): T {
  try {
    return work()
  } catch (error) {
    if (!(error instanceof RuleSheetError)) throw error
    throw new ServiceError('bad-input', 400, `Line ${error.line} of ${what}: ${error.message}`)
  }
}

/**
 * Attaches a description of one settings file, a JSON Schema or rules of ours: what it declares counts below what people say, and in the
 * place of one that was attached before. @returns how many settings it speaks of
 * @throws ServiceError `bad-input` naming the line, `not-found` for a file of no plugin
 */
export async function attach(
  context: Context,
  server: Server,
  { path, name, text }: Pick<Description, 'path' | 'name' | 'text'>,
  by: string,
): Promise<{ readonly rules: number }> {
  await requireOwner(server, path)
  const rules = readAs(name, () => readDescription(text))
  await context.rules.describe(server.row.id, { path, name, text, by, at: context.now().toISOString() })
  await note(context, by, 'described', `${path} by ${name}`, server)
  return { rules: rules.filter(({ kind }) => kind !== 'map').length }
}

/** Takes a description of a file away again. @throws ServiceError `not-found` */
export async function detach(context: Context, server: Server, path: string, by: string): Promise<void> {
  if (!(await context.rules.removeDescription(server.row.id, path))) throw notFound(`description attached to ${path}`)
  await note(context, by, 'described-no-more', path, server)
}
