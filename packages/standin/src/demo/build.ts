import { copyFileSync, cpSync, existsSync, mkdirSync, readFileSync, readdirSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { parse } from 'yaml'
import { buildPack } from '../pack/build-pack'
import { readPack } from '../pack/read-pack'
import { accountsText } from './accounts'
import { changed, type TextChange } from './changed'
import { withLater } from './later'

/*
 * Builds the demo world: packages for the plugin site, and the server folder of lantern-row as it is lived in, with the
 * changes of demo/lantern-row.yml, and the two others. Usage: demo.mjs FOLDER [bare]; bare servers have nothing of their
 * people's, and no plugins but Wardkeys.
 */
const target = process.argv[2] ?? '.demo'
const isBare = process.argv[3] === 'bare'
const sources = join(dirname(fileURLToPath(import.meta.url)), '..', 'demo')
const lived = parse(readFileSync(join(sources, 'lantern-row.yml'), 'utf8')) as {
  packages: string[]
  pictures: Record<string, string>
  records: Record<string, string>
  changes: Record<string, TextChange[]>
}

const site = join(target, 'site')
mkdirSync(site, { recursive: true })
withLater(sources, (all) => {
  for (const name of readdirSync(all).sort())
    if (existsSync(join(all, name, 'pack.yml'))) writeFileSync(join(site, `${name}.pack`), buildPack(join(all, name)))
  for (const name of readdirSync(join(all, 'scripts'))) copyFileSync(join(all, 'scripts', name), join(site, name))
  // authors of bundles pack a folder that is named after the version
  for (const name of readdirSync(join(all, 'bundles')))
    writeFileSync(join(site, `${name}.zip`), buildPack(join(all, 'bundles', name), `${name}-final/`))
})

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
if (!isBare) {
  for (const [path, from] of Object.entries(lived.pictures)) copyFileSync(join(sources, 'pictures', from), join(extras, path))
  for (const [path, text] of Object.entries(lived.records)) writeFileSync(join(extras, path), text)
  writeFileSync(join(extras, 'Purse/accounts.yml'), accountsText())
}
writeFileSync(
  join(target, 'servers', 'lantern-row', 'brackwater.yml'),
  `# The game server's own settings.
name: The Lantern Row
game-version: "7.2"
tick-rate: 20.0
port: 40100
language: en
operators: [maren]
places: [delta, upriver, saltpans, undertow]
banner: "The Lantern Row: night market tonight"
welcome: "{player} steps off the ferry."
players: [isolde, tobiah, brannoc, wenna, corley, emmet, hesper, jory, kerra, lowen, merryn, nessa, perran, rosen, sithney, talan, ursell, wella]
`,
)

const players = ['isolde', 'tobiah', 'corley', 'hesper', 'jory', 'nessa', 'rosen']

/** The server of scripts: what is not there yet is written when it starts. */
const market = join(target, 'servers', 'night-market')
mkdirSync(join(market, 'scripts'), { recursive: true })
const own = { name: 'The night market', game: '7.2', scripts: !isBare, places: ['delta', 'saltpans'], players }
writeFileSync(join(market, 'server.json'), JSON.stringify(own, null, 2) + '\n')
if (!isBare)
  for (const [from, to] of [
    ['satchels-1.3', 'Satchels'],
    ['noticeboard-1.0', 'Noticeboard'],
  ] as const)
    copyFileSync(join(site, `${from}.tide`), join(market, 'scripts', `${to}.tide`))

/** The server of bundles: folders that the harbour's file names. */
const trials = join(target, 'servers', 'ferry-trials')
for (const folder of ['profile', 'bundles', 'places/estuary', 'places/mole']) mkdirSync(join(trials, folder), { recursive: true })
for (const place of ['estuary', 'mole']) writeFileSync(join(trials, 'places', place, 'place.json'), '{ "tide": "rising" }\n')
writeFileSync(join(trials, 'profile/server.json'), JSON.stringify({ name: 'The ferry trials', game: '7.1', players }, null, 2) + '\n')
writeFileSync(join(trials, 'profile/tides.ini'), '; The hours all bundles go by.\n[harbour]\nhours = 06:00, 18:00\n')
const berths: readonly (readonly [string, string])[] = isBare
  ? []
  : [
      ['ferrybook-1.0', 'ferrybook'],
      ['beacon-sign-1.2', 'beacon_sign'],
      ['regatta-1.5', 'regatta'],
    ]
for (const [from, to] of berths) cpSync(join(sources, 'bundles', from), join(trials, 'bundles', to), { recursive: true })
writeFileSync(
  join(trials, 'harbour.cfg'),
  ['# What the harbour opens, in this order.', ...(isBare ? [] : ['set bundles on']), ...berths.map(([, to]) => `berth ${to}`), ''].join(
    '\n',
  ),
)
