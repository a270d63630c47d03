import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { archiveLayout } from './archive'
import { bundleLayout } from './bundle'
import type { Layout } from './layout'
import { scriptLayout } from './script'

export type { Layout, Pack, ServerSettings } from './layout'

/** The family of a server folder, by the file that tells it. @throws Error where none does */
export function layoutOf(folder: string): Layout {
  const found = [archiveLayout, bundleLayout, scriptLayout].find(({ sign }) => existsSync(join(folder, sign)))
  if (!found) throw new Error(`${folder} is no server's folder`)
  return found
}
