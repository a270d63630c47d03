#!/usr/bin/env node
// npm links a bin only if its file exists when it installs, and the real one is built later: this small file is committed.
import { existsSync } from 'node:fs'

const built = new URL('../dist/pasticcio.mjs', import.meta.url)
if (existsSync(built)) await import(built.href)
else {
  process.stderr.write('pasticcio: not built yet. Run "npm run build:packages" in the checkout first.\n')
  process.exitCode = 1
}
