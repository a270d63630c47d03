import { mkdirSync, readdirSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { buildPack } from '../pack/build-pack'

/*
 * Builds the demo world: packages for the plugin site and the server folder of lantern-row, with Wardkeys in it; Purse
 * and Hampers wait at the plugin site. Usage: demo.mjs FOLDER.
 */
const target = process.argv[2] ?? '.demo'
const sources = join(dirname(fileURLToPath(import.meta.url)), '..', 'demo')

const site = join(target, 'site')
mkdirSync(site, { recursive: true })
for (const name of readdirSync(sources).sort()) writeFileSync(join(site, `${name}.pack`), buildPack(join(sources, name)))

const server = join(target, 'servers', 'lantern-row')
mkdirSync(join(server, 'extras'), { recursive: true })
writeFileSync(join(server, 'extras', 'Wardkeys.pack'), buildPack(join(sources, 'wardkeys-5.0')))
writeFileSync(
  join(server, 'brackwater.yml'),
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
