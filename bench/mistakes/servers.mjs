// The three servers of the demo with every plugin of its world, as their authors ship them and set up well: what mistakes are
// made on. Usage: await makeServers(folder)
import { spawn, execFileSync } from 'node:child_process'
import { cpSync, mkdirSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'

const standin = 'packages/standin/dist'
const ARCHIVES =
  'purse-1.8 wardkeys-5.0 hampers-2.4 gangway-1.4 signboard-2.0 stallholder-2.1 clayworks-1.2 tideclear-3.1 errands-1.0 moorings-1.1 backwater-bridge-1.3 backwater-gate-1.3 nightfair-1.3 wharfside-1.0'.split(
    ' ',
  )
const SCRIPTS = { 'satchels-1.3': 'Satchels', 'noticeboard-1.0': 'Noticeboard', 'wardens-desk-2.0': "Wardens' Desk" }
const BUNDLES = {
  'ferrybook-1.0': 'ferrybook',
  'beacon-sign-1.2': 'beacon_sign',
  'regatta-1.5': 'regatta',
  'lookouts-2.1': 'lookouts',
  'outwash-3.1': 'outwash',
}
/** Nodes that plugins ask for as they are shipped, which whoever sets a server up well gives to somebody. */
const NODES = [
  'clayworks.dig.kiln',
  'stallholder.stall.lamps',
  'moorings.go.undertow',
  'nightfair.enter',
  'nightfair.keep',
  'wharfside.rare',
]

/** Makes the servers below a folder, and returns its subfolders: `servers/<name>` and `site` with the packages. */
export async function makeServers(folder) {
  execFileSync(process.execPath, [join(standin, 'demo.mjs'), folder])
  const site = join(folder, 'site')
  const at = (name) => join(folder, 'servers', name)
  rmSync(join(at('lantern-row'), 'extras'), { recursive: true })
  mkdirSync(join(at('lantern-row'), 'extras'))
  for (const name of ARCHIVES) cpSync(join(site, `${name}.pack`), join(at('lantern-row'), 'extras', `${nameIn(name)}.pack`))
  for (const [from, to] of Object.entries(SCRIPTS)) cpSync(join(site, `${from}.tide`), join(at('night-market'), 'scripts', `${to}.tide`))
  const trials = at('ferry-trials')
  for (const [from, to] of Object.entries(BUNDLES))
    cpSync(join('packages/standin/demo/bundles', from), join(trials, 'bundles', to), { recursive: true })
  place(trials)
  for (const name of ['lantern-row', 'night-market', 'ferry-trials']) await startOnce(at(name))
  const groups = join(at('lantern-row'), 'extras/Wardkeys/settings.yml')
  change(groups, '      - wardkeys.admin\n', `      - wardkeys.admin\n${NODES.map((node) => `      - ${node}\n`).join('')}`)
  return { site, at }
}

const nameIn = (name) => /^name: (.+)$/m.exec(readFileSync(join('packages/standin/demo', name, 'pack.yml'), 'utf8'))[1]

export function change(path, from, to) {
  const text = readFileSync(path, 'utf8')
  const count = text.split(from).length - 1
  if (count !== 1) throw new Error(`${path} holds “${from}” ${count} times`)
  writeFileSync(
    path,
    text.replace(from, () => to),
  )
}

/** Puts the pieces of bundles where they belong, by hand, and the lines of the harbour. */
function place(trials) {
  const lookouts = join(trials, 'bundles/lookouts')
  cpSync(join(lookouts, 'template/lookouts.json'), join(trials, 'profile/lookouts.json'))
  cpSync(join(lookouts, 'install/pictures'), join(trials, 'bundles/ferrybook/pictures'), { recursive: true })
  mkdirSync(join(trials, 'keys'), { recursive: true })
  for (const name of readdirSync(lookouts).filter((file) => file.endsWith('.key'))) cpSync(join(lookouts, name), join(trials, 'keys', name))
  const items = /return \{\n([\s\S]*)\}/.exec(readFileSync(join(lookouts, 'install/items.lua'), 'utf8'))[1]
  change(
    join(trials, 'bundles/ferrybook/items.lua'),
    '  tin_bell = { label = "Tin bell", weight = 1, stack = 12 },\n',
    `  tin_bell = { label = "Tin bell", weight = 1, stack = 12 },\n${items}`,
  )
  const tides = join(trials, 'profile/tides.ini')
  writeFileSync(tides, `${readFileSync(tides, 'utf8')}\n${readFileSync(join(trials, 'bundles/outwash/install/tides.ini'), 'utf8')}`)
  const berths = Object.values(BUNDLES).map((name) => `berth ${name}\n`)
  writeFileSync(join(trials, 'harbour.cfg'), `# What the harbour opens, in this order.\nset bundles on\n${berths.join('')}`)
}

/** Starts a server until it is ready, so that it writes what it writes at its first start, and stops it. */
function startOnce(folder) {
  return new Promise((resolve, reject) => {
    const child = spawn(process.execPath, [join(process.cwd(), standin, 'server.mjs')], { cwd: folder })
    let said = ''
    child.stdout.on('data', (part) => {
      said += part
      if (/ready, \d+ plugins/.test(said)) child.stdin.end('stop\n')
    })
    child.stderr.on('data', (part) => (said += part))
    child.on('exit', () => (/ready, \d+ plugins/.test(said) ? resolve(said) : reject(new Error(said))))
  })
}
