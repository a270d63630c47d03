// Types of the packages, the app, the server and the tests.
import { run } from './prepare.mjs'

// names that are there without an import come from what this writes, so it must be of now
run('npx', ['--no-install', 'nuxt', 'prepare'])
for (const project of ['packages/core', 'packages/cli', 'packages/standin', 'packages/unpack', 'packages/check', 'tests'])
  run('npx', ['--no-install', 'tsc', '-p', project])
for (const project of ['.nuxt/tsconfig.app.json', '.nuxt/tsconfig.server.json'])
  run('npx', ['--no-install', 'vue-tsc', '-p', project, '--noEmit'])
process.stdout.write('types are right\n')
