import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { ask, until, type RunningApp } from './app'

const SERVER = '/api/servers/lantern-row'

/** Nightfair has a setting of each kind in YAML, JSON and Lua. */
export const installNightfair = (app: RunningApp, cookie: string): Promise<void> =>
  installPack(app, cookie, 'nightfair-1.3', 'Nightfair', 3)

/** Wharfside has 474 goods in six files, and the categories they follow in a seventh. */
export const installWharfside = (app: RunningApp, cookie: string): Promise<void> =>
  installPack(app, cookie, 'wharfside-1.0', 'Wharfside', 7)

/** Installs a package of the demo's, and waits until its files are there. */
async function installPack(app: RunningApp, cookie: string, pack: string, name: string, files: number): Promise<void> {
  const bytes = readFileSync(join(app.folder, `site/${pack}.pack`))
  const headers = { cookie, 'content-type': 'application/octet-stream' }
  const added = await fetch(`${app.origin}${SERVER}/pantry/upload?name=${pack}.pack`, { method: 'POST', headers, body: bytes })
  const packages = ((await added.json()) as { id: number }[]).map(({ id }) => id)
  const { sha } = await ask<{ sha: string }>(app, cookie, 'POST', `${SERVER}/installs/plan`, { packages })
  await ask(app, cookie, 'POST', `${SERVER}/installs`, { packages, planSha: sha })
  await until(async () =>
    (await ask<{ plugins: { name: string; files: unknown[] }[] }>(app, cookie, 'GET', `${SERVER}/overview`)).plugins.some(
      (plugin) => plugin.name === name && plugin.files.length === files,
    ),
  )
}
