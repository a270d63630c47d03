// Adds a case to the corpus of carrying forward: works out what comes out today, for a person to look at and commit.
//   npm run corpus:add -- NAME "Title" [--why "Because"] --mine FILE… --update FILE… [--factory FILE…] [--shape mine]
// Files of a side are named by their last part. Without --factory the case has no baseline.
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { basename, join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { parseArgs } from 'node:util'
import { build } from 'esbuild'

const list = { type: 'string', multiple: true }
const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: { factory: list, mine: list, update: list, why: { type: 'string' }, shape: { type: 'string' } },
})
const [name, title] = positionals
if (!name || !title || !values.mine || !values.update) {
  process.stderr.write(
    'Usage: npm run corpus:add -- NAME "Title" [--why "Because"] --mine FILE… --update FILE… [--factory FILE…] [--shape mine]\n',
  )
  process.exit(1)
}
const work = mkdtempSync(join(tmpdir(), 'corpus-'))
const bundle = join(work, 'corpus.mjs')
await build({
  entryPoints: ['packages/core/tests/corpus.ts'],
  bundle: true,
  platform: 'node',
  format: 'esm',
  outfile: bundle,
  logLevel: 'warning',
})
const { runCase, writeCase } = await import(pathToFileURL(bundle).href)
rmSync(work, { recursive: true })
const side = (paths) => (paths ? Object.fromEntries(paths.map((path) => [basename(path), readFileSync(path, 'utf8')])) : null)
const given = {
  title,
  why: values.why ?? '',
  factory: side(values.factory),
  mine: side(values.mine),
  update: side(values.update),
  choices: {},
  shape: values.shape === 'mine' ? 'mine' : 'update',
}
const { result, says } = runCase(given)
const path = `packages/core/tests/corpus/${name}.md`
const text = writeCase({ ...given, result, says })
writeFileSync(path, text)
process.stdout.write(`${text}\nWritten to ${path}. Read it, and commit it if it is right.\n`)
