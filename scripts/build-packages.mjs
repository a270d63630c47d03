// Bundles what runs outside the app (the command line, the stand-ins) into one file each.
import { build } from 'esbuild'

const shared = {
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  packages: 'external',
  logLevel: 'warning',
  sourcemap: true,
  alias: {
    '@pasticcio/core': './packages/core/src/index.ts',
    '@pasticcio/unpack': './packages/unpack/src/index.ts',
    '@pasticcio/check': './packages/check/src/index.ts',
  },
}
await build({
  ...shared,
  // what it needs lies in folders of its own that are not found from here, and is a part of it
  packages: 'bundle',
  banner: { js: "import { createRequire as makeRequire } from 'node:module'; const require = makeRequire(import.meta.url);" },
  entryPoints: { pasticcio: 'packages/cli/src/bin.ts' },
  outdir: 'packages/cli/dist',
  outExtension: { '.js': '.mjs' },
})
await build({
  ...shared,
  entryPoints: {
    server: 'packages/standin/src/server/main.ts',
    site: 'packages/standin/src/site/main.ts',
    demo: 'packages/standin/src/demo/build.ts',
  },
  outdir: 'packages/standin/dist',
  outExtension: { '.js': '.mjs' },
})
// the thread that opens archives is one file that needs nothing beside it, since it becomes a part of the app
await build({
  ...shared,
  packages: 'bundle',
  format: 'cjs',
  sourcemap: false,
  minify: true,
  entryPoints: { thread: 'packages/unpack/src/thread.ts' },
  outdir: 'packages/unpack/dist',
  outExtension: { '.js': '.cjs' },
})
// and so is the thread that checks files
await build({
  ...shared,
  packages: 'bundle',
  format: 'cjs',
  sourcemap: false,
  minify: true,
  entryPoints: { 'check-thread': 'packages/check/src/thread.ts' },
  outdir: 'packages/check/dist',
  outExtension: { '.js': '.cjs' },
})
