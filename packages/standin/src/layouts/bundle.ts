import { existsSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { parse } from 'yaml'
import { readDescriptor, type Behaviour } from '../pack/descriptor'
import { readTree } from '../server/trees'
import { NO_SETTINGS, type Layout, type Pack, type ServerSettings } from './layout'

const SIGN = 'harbour.cfg'

/** Folders below `bundles/`, of which `harbour.cfg` opens those it names, in its order. */
export const bundleLayout: Layout = {
  sign: SIGN,
  generated: (pack, path) => `${pack.said}: wrote ${pack.fileSaid(path)}`,
  loaded: (pack, summary, again) => `${pack.said}: berthed ${pack.descriptor.version}${again ? ' again' : ''}, ${summary}`,
  failed: (pack, why) => `${pack.said}: not berthed: ${why}`,
  settings(folder, profile) {
    return { ...NO_SETTINGS, ...(JSON.parse(readFileSync(join(folder, profile, 'server.json'), 'utf8')) as Partial<ServerSettings>) }
  },
  scan(folder, complain) {
    const lines = readFileSync(join(folder, SIGN), 'utf8')
      .split(/\r?\n/)
      .map((line) => line.trim())
    if (!lines.includes('set bundles on')) {
      if (lines.some((line) => line.startsWith('berth '))) complain(`bundles are switched off in ${SIGN}`)
      return []
    }
    return lines.flatMap((line) => {
      const name = /^berth (\S+)$/.exec(line)?.[1]
      if (name === undefined) return []
      try {
        return [bundleAt(folder, name)]
      } catch (error) {
        complain(`${name}: not berthed: ${(error as Error).message}`)
        return []
      }
    })
  },
}

function bundleAt(folder: string, name: string): Pack {
  const home = `bundles/${name}`
  const path = join(folder, home, 'bundle.lua')
  if (!existsSync(path)) throw new Error(`there is no ${home}/bundle.lua`)
  const descriptor = readDescriptor(JSON.stringify(readTree('bundle.lua', readFileSync(path, 'utf8')).data))
  return {
    descriptor,
    behaviour: parse(readFileSync(join(folder, home, 'behaviour.yml'), 'utf8')) as Behaviour,
    said: name,
    settings: `${home}/settings.lua`,
    texts: null,
    defaults: new Map(),
    record: (file) => `${home}/${file}`,
    fileSaid: (file) => (file.startsWith(home + '/') ? file.slice(home.length + 1) : file),
  }
}
