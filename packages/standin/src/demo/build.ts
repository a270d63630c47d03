import { mkdirSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { parse } from 'yaml'
import { buildPack } from '../pack/build-pack'
import { readPack } from '../pack/read-pack'
import { changed, type TextChange } from './changed'

/*
 * Builds the demo world: packages for the plugin site, and the server folder of lantern-row as it is lived in, with the
 * changes of demo/lantern-row.yml. Usage: demo.mjs FOLDER [bare]; a bare server has Wardkeys alone, as it came.
 */
const target = process.argv[2] ?? '.demo'
const isBare = process.argv[3] === 'bare'
const sources = join(dirname(fileURLToPath(import.meta.url)), '..', 'demo')
const lived = parse(readFileSync(join(sources, 'lantern-row.yml'), 'utf8')) as {
  packages: string[]
  changes: Record<string, TextChange[]>
}

const site = join(target, 'site')
mkdirSync(site, { recursive: true })
for (const name of readdirSync(sources).sort())
  if (statSync(join(sources, name)).isDirectory()) writeFileSync(join(site, `${name}.pack`), buildPack(join(sources, name)))

const extras = join(target, 'servers', 'lantern-row', 'extras')
mkdirSync(extras, { recursive: true })
for (const name of isBare ? ['wardkeys-5.0'] : lived.packages) {
  const { descriptor, defaults } = readPack(join(site, `${name}.pack`))
  writeFileSync(join(extras, `${descriptor.name}.pack`), readFileSync(join(site, `${name}.pack`)))
  if (isBare) continue
  mkdirSync(join(extras, descriptor.name), { recursive: true })
  for (const [file, text] of defaults) {
    const path = `${descriptor.name}/${file}`
    writeFileSync(join(extras, path), changed(path, text, lived.changes[path] ?? []))
  }
}
writeFileSync(
  join(target, 'servers', 'lantern-row', 'brackwater.yml'),
  `# The game server's own settings.
name: The Lantern Row
game-version: "7.2"
tick-rate: 20.0
places: [delta, upriver, saltpans, undertow]
banner: "The Lantern Row: night market tonight"
welcome: "{player} steps off the ferry."
players: [isolde, tobiah, brannoc, wenna, corley, emmet, hesper, jory, kerra, lowen, merryn, nessa, perran, rosen, sithney, talan, ursell, wella]
`,
)
