import { fileURLToPath } from 'node:url'
import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vitest/config'

const alias = {
  '@pasticcio/core': fileURLToPath(new URL('./packages/core/src/index.ts', import.meta.url)),
  '@pasticcio/unpack': fileURLToPath(new URL('./packages/unpack/src/index.ts', import.meta.url)),
  '@pasticcio/check': fileURLToPath(new URL('./packages/check/src/index.ts', import.meta.url)),
  '~': fileURLToPath(new URL('./app', import.meta.url)),
}
const project = (name: string, include: string[], more: Record<string, unknown> = {}) => ({
  resolve: { alias },
  test: { name, include, ...more },
})

export default defineConfig({
  test: {
    coverage: {
      provider: 'v8',
      reporter: ['text-summary', 'json-summary'],
      include: ['packages/*/src/**', 'server/**', 'app/**'],
    },
    projects: [
      project('core', ['packages/core/tests/**/*.test.ts'], { testTimeout: 120_000, setupFiles: ['packages/core/tests/setup.ts'] }),
      project('cli', ['packages/cli/tests/**/*.test.ts'], { testTimeout: 30_000 }),
      project('standin', ['packages/standin/tests/**/*.test.ts'], { testTimeout: 30_000 }),
      project('server', ['tests/server/**/*.test.ts'], { testTimeout: 60_000, hookTimeout: 60_000 }),
      {
        ...project('app', ['tests/app/**/*.test.ts'], {
          environment: 'happy-dom',
          setupFiles: ['tests/app/setup.ts'],
          testTimeout: 60_000,
        }),
        plugins: [vue()],
      },
      project('e2e', ['tests/e2e/**/*.test.ts'], { testTimeout: 40_000, hookTimeout: 240_000, fileParallelism: false, bail: 1 }),
    ],
  },
})
