import { mkdirSync, mkdtempSync, rmSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { pathToFileURL } from 'node:url'
import { build } from 'esbuild'

/** A helper of the tests as a program of its own, for what has to be killed. */
export interface Bundled {
  readonly file: string
  remove(): void
}

/** @param entry from the checkout's folder @param standing where it thinks it stands */
export async function bundled(entry: string, standing = entry): Promise<Bundled> {
  // below node_modules, so that what is not bundled is found from there
  const home = resolve('node_modules/.pasticcio')
  mkdirSync(home, { recursive: true })
  const folder = mkdtempSync(join(home, 'test-'))
  const file = join(folder, 'program.mjs')
  await build({
    entryPoints: [entry],
    bundle: true,
    platform: 'node',
    format: 'esm',
    packages: 'external',
    alias: { '@pasticcio/core': './packages/core/src/index.ts', '@pasticcio/check': './packages/check/src/index.ts' },
    define: { 'import.meta.url': JSON.stringify(pathToFileURL(resolve(standing)).href) },
    outfile: file,
    logLevel: 'error',
  })
  return { file, remove: () => rmSync(folder, { recursive: true, force: true }) }
}
