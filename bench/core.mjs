// The core, bundled for a benchmark, together with a helper of its tests if one is named.
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { pathToFileURL } from 'node:url'
import { build } from 'esbuild'

export async function loadCore(...more) {
  // below node_modules, so that what is not bundled is found from there
  const home = join('node_modules', '.pasticcio')
  mkdirSync(home, { recursive: true })
  const work = resolve(mkdtempSync(join(home, 'bench-')))
  const outfile = join(work, 'core.mjs')
  const contents = ['./packages/core/src/index.ts', ...more].map((path) => `export * from '${path}'`).join('\n')
  // what is bundled of others may ask for Node's own modules in the old way
  const banner = { js: "import { createRequire as requireFrom } from 'node:module'; const require = requireFrom(import.meta.url);" }
  await build({
    stdin: { contents, resolveDir: process.cwd(), loader: 'ts' },
    bundle: true,
    platform: 'node',
    external: ['puppeteer-core', 'knex', 'better-sqlite3', 'pino'],
    // helpers of the tests look for the checkout from where they stand
    define: { 'import.meta.url': JSON.stringify(pathToFileURL(resolve(more.at(-1) ?? 'bench/core.mjs')).href) },
    format: 'esm',
    outfile,
    banner,
    logLevel: 'warning',
  })
  const core = await import(pathToFileURL(outfile).href)
  rmSync(work, { recursive: true })
  return core
}
