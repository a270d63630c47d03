// Bundles what runs outside the app (the command line, the stand-ins) into one file each.
import { build } from 'esbuild'

const shared = { bundle: true, platform: 'node', target: 'node20', format: 'esm', packages: 'external', logLevel: 'warning', sourcemap: true, alias: { '@pasticcio/core': './packages/core/src/index.ts' } }
await build({ ...shared, entryPoints: { pasticcio: 'packages/cli/src/bin.ts' }, outdir: 'packages/cli/dist', outExtension: { '.js': '.mjs' } })
