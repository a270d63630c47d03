import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { ask, until, type RunningApp } from './app'

const SERVER = '/api/servers/lantern-row'

/** Installs Nightfair, which has a setting of each kind in YAML, JSON and Lua, and waits until it is there. */
export async function installNightfair(app: RunningApp, cookie: string): Promise<void> {
  const bytes = readFileSync(join(app.folder, 'site/nightfair-1.3.pack'))
  const headers = { cookie, 'content-type': 'application/octet-stream' }
  const added = await fetch(`${app.origin}${SERVER}/pantry/upload?name=nightfair-1.3.pack`, { method: 'POST', headers, body: bytes })
  const packages = ((await added.json()) as { id: number }[]).map(({ id }) => id)
  const { sha } = await ask<{ sha: string }>(app, cookie, 'POST', `${SERVER}/installs/plan`, { packages })
  await ask(app, cookie, 'POST', `${SERVER}/installs`, { packages, planSha: sha })
  await until(async () =>
    (await ask<{ plugins: { name: string; files: unknown[] }[] }>(app, cookie, 'GET', `${SERVER}/overview`)).plugins.some(
      ({ name, files }) => name === 'Nightfair' && files.length === 3,
    ),
  )
}
