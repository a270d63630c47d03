import { join } from 'node:path'
import { LENIENT, layer, parse, type Customisation, type FormatId } from '@pasticcio/core'
import { EXIT } from '../errors'
import { isFolder, listFiles, readText, requireFormat } from '../files'
import type { Streams } from '../streams'
import { requireParsed } from './carry'

/** `pasticcio layer`: what differs from the factory copy, setting by setting. */
export async function runLayer(
  options: { factory: string; mine: string; json?: boolean; format?: FormatId },
  streams: Streams,
): Promise<number> {
  const names = (await isFolder(options.mine)) ? await listFiles(options.mine) : [null]
  const found: (Customisation & { file?: string })[] = []
  for (const name of names) {
    const [factoryPath, minePath] =
      name === null ? [options.factory, options.mine] : [join(options.factory, name), join(options.mine, name)]
    const format = requireFormat(minePath, options.format)
    const factory = name === null ? await readText(factoryPath) : await readText(factoryPath).catch(() => '')
    const documents = [parse(factory, format, LENIENT), parse(await readText(minePath), format, LENIENT)] as const
    if (factory !== '') requireParsed(factoryPath, documents[0])
    requireParsed(minePath, documents[1])
    found.push(...layer(...documents).map((item) => (name === null ? item : { file: name, ...item })))
  }
  if (options.json) streams.out(JSON.stringify(found, null, 2) + '\n')
  else for (const item of found) streams.out(describe(item) + '\n')
  if (!options.json && found.length === 0) streams.out('Nothing differs from the factory copy.\n')
  return EXIT.done
}

function describe(item: Customisation & { file?: string }): string {
  const place = `${item.file ? item.file + ' ' : ''}${item.path || '/'}`
  const show = (value: unknown): string => (value === undefined ? '' : JSON.stringify(value))
  switch (item.kind) {
    case 'changed':
      return `${place}: ${show(item.factory)} → ${show(item.mine)}`
    case 'moved':
      return `${place}: moved from ${item.from}`
    case 'removed':
    case 'turned-off':
      return `${place}: ${item.kind === 'removed' ? 'removed' : 'turned off'}, was ${show(item.factory)}`
    case 'comment':
      return `${place}: own comment ${show(item.mine)}`
    default:
      return `${place}: ${item.kind === 'added' ? 'added' : 'turned on'}: ${show(item.mine)}`
  }
}
