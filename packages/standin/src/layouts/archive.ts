import { existsSync, readFileSync, readdirSync } from 'node:fs'
import { join } from 'node:path'
import { parse } from 'yaml'
import { readPack } from '../pack/read-pack'
import { NO_SETTINGS, PLAIN_WORDS, type Layout, type Pack, type ServerSettings } from './layout'

const SIGN = 'brackwater.yml'

/** Packages that stay packed, in `extras/`. */
export const archiveLayout: Layout = {
  sign: SIGN,
  ...PLAIN_WORDS,
  settings(folder) {
    const own = parse(readFileSync(join(folder, SIGN), 'utf8')) as ServerSettings & { 'game-version': string; 'tick-rate': number }
    return { ...NO_SETTINGS, ...own, game: own['game-version'], tickRate: own['tick-rate'] }
  },
  scan(folder, complain) {
    const extras = join(folder, 'extras')
    if (!existsSync(extras)) return []
    return readdirSync(extras)
      .filter((name) => name.endsWith('.pack'))
      .sort()
      .flatMap((file) => {
        try {
          return [packAt(join(extras, file))]
        } catch (error) {
          complain(`${file}: not a package: ${(error as Error).message}`)
          return []
        }
      })
  },
}

function packAt(path: string): Pack {
  const { descriptor, behaviour, defaults } = readPack(path)
  const own = `extras/${descriptor.name}`
  return {
    descriptor,
    behaviour,
    said: descriptor.name,
    settings: `${own}/settings.yml`,
    texts: `${own}/texts.properties`,
    defaults: new Map([...defaults].map(([name, text]) => [`${own}/${name}`, text])),
    record: (name) => `${own}/${name}`,
    fileSaid: (file) => file.slice(own.length + 1),
  }
}
