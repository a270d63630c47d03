import { fileURLToPath } from 'node:url'

const core = fileURLToPath(new URL('./packages/core/src/index.ts', import.meta.url))
const unpack = fileURLToPath(new URL('./packages/unpack/src/index.ts', import.meta.url))
const check = fileURLToPath(new URL('./packages/check/src/index.ts', import.meta.url))

/** The drawing library adds its rules as it goes, which the pages' policy keeps out; the few it needs are in theme/house.css. */
const withoutPlotlyStyles = {
  name: 'without-plotly-styles',
  enforce: 'pre' as const,
  resolveId: (source: string) => (source.endsWith('/plotcss') ? '\0plotcss' : null),
  load: (id: string) => (id === '\0plotcss' ? 'export default {}' : null),
}

export default defineNuxtConfig({
  compatibilityDate: '2026-11-01',
  // everything stands behind a sign-in and works on live data, so pages are made in the browser
  ssr: false,
  telemetry: { enabled: false },
  devtools: { enabled: false },
  modules: ['@pinia/nuxt', '@primevue/nuxt-module', '@vueuse/nuxt'],
  components: [{ path: '~/components', pathPrefix: false }],
  css: [
    '@fontsource/literata/latin-400.css',
    '@fontsource/literata/latin-600.css',
    '@fontsource/literata/latin-400-italic.css',
    '@fontsource/atkinson-hyperlegible/latin-400.css',
    '@fontsource/atkinson-hyperlegible/latin-700.css',
    '@fontsource/jetbrains-mono/latin-400.css',
    '@fontsource/jetbrains-mono/latin-600.css',
    '~/theme/tokens.css',
    '~/theme/base.css',
    '~/theme/controls.css',
    '~/theme/figures.css',
    '~/theme/house.css',
    '~/theme/source.css',
  ],
  primevue: {
    options: { unstyled: true },
    importPT: { from: '~/theme/parts' },
    autoImport: false,
    components: {
      include: [
        'Checkbox',
        'Column',
        'ConfirmPopup',
        'DataTable',
        'Dialog',
        'InputText',
        'Menu',
        'Message',
        'ProgressBar',
        'Select',
        'SelectButton',
        'Splitter',
        'SplitterPanel',
        'Toast',
        'ToggleSwitch',
      ],
    },
  },
  alias: { '@pasticcio/core': core, '@pasticcio/unpack': unpack, '@pasticcio/check': check },
  app: { head: { title: 'Pasticcio', htmlAttrs: { lang: 'en' }, link: [{ rel: 'icon', href: '/mark.svg', type: 'image/svg+xml' }] } },
  // only what a page needs comes with it; what a link leads to comes when somebody is about to follow it
  hooks: {
    'build:manifest': (manifest) => {
      for (const item of Object.values(manifest)) item.prefetch = false
    },
    // which routes there are, for telling a wrong method from a wrong address
    'nitro:init': (nitro) => {
      nitro.options.virtual['#routes'] = () =>
        `export default ${JSON.stringify(nitro.scannedHandlers.map(({ route, method }) => ({ route, method })))}`
    },
  },
  experimental: { defaults: { nuxtLink: { prefetchOn: { interaction: true, visibility: false } } } },
  nitro: {
    alias: { '@pasticcio/core': core, '@pasticcio/unpack': unpack, '@pasticcio/check': check },
    // compressed once, when it is built; whoever asks gets the smallest they understand
    compressPublicAssets: { gzip: true, brotli: true },
    serverAssets: [
      { baseName: 'families', dir: '../families' },
      // the thread that opens archives, as one file
      { baseName: 'threads', dir: '../packages/unpack/dist' },
      { baseName: 'checking', dir: '../packages/check/dist' },
    ],
  },
  vite: { plugins: [withoutPlotlyStyles], build: { target: 'es2022' }, worker: { format: 'es' } },
  typescript: {
    strict: true,
    tsConfig: {
      // tests of the app use what Nuxt gives to the app
      include: ['../tests/app/**/*.ts'],
      compilerOptions: { noUncheckedIndexedAccess: true },
    },
  },
})
