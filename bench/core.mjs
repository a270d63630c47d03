// The core, bundled for a benchmark, together with a helper of its tests if one is named.
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { build } from 'esbuild'

export async function loadCore(...more) {
  const work = mkdtempSync(join(tmpdir(), 'bench-'))
  const outfile = join(work, 'core.mjs')
  const contents = ['./packages/core/src/index.ts', ...more].map((path) => `export * from '${path}'`).join('\n')
  // what is bundled of others may ask for Node's own modules in the old way
  const banner = { js: "import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);" }
  await build({
    stdin: { contents, resolveDir: process.cwd(), loader: 'ts' },
    bundle: true,
    platform: 'node',
    format: 'esm',
    outfile,
    banner,
    logLevel: 'warning',
  })
  const core = await import(pathToFileURL(outfile).href)
  rmSync(work, { recursive: true })
  return core
}
