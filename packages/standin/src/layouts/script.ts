import { existsSync, readFileSync, readdirSync } from 'node:fs'
import { join } from 'node:path'
import { parse } from 'yaml'
import { readDescriptor, type Behaviour, type Descriptor } from '../pack/descriptor'
import { NO_SETTINGS, PLAIN_WORDS, type Layout, type Pack, type ServerSettings } from './layout'

const SIGN = 'server.json'

/** One script a plugin, in `scripts/`, where `server.json` switches scripts on. */
export const scriptLayout: Layout = {
  sign: SIGN,
  ...PLAIN_WORDS,
  settings: (folder) => ({ ...NO_SETTINGS, ...ownSettings(folder) }),
  scan(folder, complain) {
    const scripts = join(folder, 'scripts')
    if (!existsSync(scripts)) return []
    const files = readdirSync(scripts).filter((name) => name.endsWith('.tide'))
    if (ownSettings(folder).scripts !== true) {
      if (files.length > 0) complain(`scripts are switched off in ${SIGN}`)
      return []
    }
    return files.sort().flatMap((file) => {
      try {
        return [packOf(readFileSync(join(scripts, file), 'utf8'))]
      } catch (error) {
        complain(`${file}: not a script: ${(error as Error).message}`)
        return []
      }
    })
  },
}

const ownSettings = (folder: string): Partial<ServerSettings> & { scripts?: boolean } =>
  JSON.parse(readFileSync(join(folder, SIGN), 'utf8')) as Partial<ServerSettings>

/** What a script says of itself in its first lines, which begin with `#:`. @throws Error */
export function scriptDescriptor(text: string): Descriptor {
  const lines = text.split('\n')
  const end = lines.findIndex((line) => !line.startsWith('#:'))
  return readDescriptor(
    lines
      .slice(0, end < 0 ? lines.length : end)
      .map((line) => line.slice(3))
      .join('\n'),
  )
}

/** The parts of a script between `#begin NAME` and `#end`. */
function partsOf(text: string): Map<string, string> {
  return new Map([...text.matchAll(/^#begin (.+)\n([^]*?)^#end$/gm)].map(([, name, part]) => [name!, part!]))
}

function packOf(text: string): Pack {
  const descriptor = scriptDescriptor(text)
  const parts = partsOf(text)
  const behaviour = parse(parts.get('behaviour') ?? 'kind: answers\nreads: {}') as Behaviour
  return {
    descriptor,
    behaviour,
    said: descriptor.name,
    settings: `settings/${descriptor.name}.json`,
    texts: null,
    defaults: new Map([...parts].filter(([name]) => name.includes('/'))),
    record: () => `records/${descriptor.name}.json`,
    fileSaid: (file) => file,
  }
}
