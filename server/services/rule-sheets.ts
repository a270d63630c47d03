import { RuleSheetError, nameOf, pathOf, readRuleSheet, writeRuleSheet, type Rule } from '@pasticcio/core'
import type { Context, Server } from './context'
import { ServiceError } from './errors'
import { note } from './note'
import { inRange } from './versions'

/** A rule sheet as a file. */
export interface SheetFile {
  readonly name: string
  readonly text: string
  /** How many settings it speaks of. */
  readonly rules: number
}

/** What people say the settings of a plugin are, as a rule sheet for its version and those after it. @throws ServiceError `not-found` */
export async function sheetOf(context: Context, server: Server, name: string): Promise<SheetFile> {
  const plugin = await server.inventory.require(name)
  const given = await context.rules.of(server.row.id)
  const files: Record<string, readonly Rule[]> = {}
  for (const { path } of plugin.files) {
    const rules = given.get(path)
    if (rules) files[nameOf(server.family, plugin, path)] = rules
  }
  const text = writeRuleSheet({ plugin: name, versions: `>=${plugin.version}`, files })
  return { name: `${name}-${plugin.version}.rules.yml`, text, rules: Object.values(files).flat().length }
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

function read(text: string): ReturnType<typeof readRuleSheet> {
  try {
    return readRuleSheet(text)
  } catch (error) {
    if (!(error instanceof RuleSheetError)) throw error
    throw new ServiceError('bad-input', 400, `Line ${error.line} of the rule sheet: ${error.message}`)
  }
}
