/*
 * What Nuxt gives to the app without an import, for tests that run without Nuxt: Vue's functions, our utils, composables
 * and stores, and all components by name.
 */
import { useEventListener, useLocalStorage } from '@vueuse/core'
import { config } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import PrimeVue from 'primevue/config'
import ConfirmPopup from 'primevue/confirmpopup'
import ConfirmationService from 'primevue/confirmationservice'
import Dialog from 'primevue/dialog'
import ProgressBar from 'primevue/progressbar'
import Select from 'primevue/select'
import SelectButton from 'primevue/selectbutton'
import ToggleSwitch from 'primevue/toggleswitch'
import { beforeEach, vi } from 'vitest'
import * as vue from 'vue'
import { chordsOf, useKeys } from '../../app/composables/use-keys'
import { useTheme } from '../../app/composables/use-theme'
import parts from '../../app/theme/parts'
import { ApiProblem, callApi, wordsOf } from '../../app/utils/api'

vi.mock('../../app/drafts/worker-engine', async () => {
  const { SheetEngine } = await import('../../app/drafts/engine')
  const { engines } = await import('./engines')
  const openWorkerEngine = async (input: ConstructorParameters<typeof SheetEngine>[0]) => {
    engines.open++
    return { engine: new SheetEngine(input), close: () => void engines.open-- }
  }
  return { openWorkerEngine }
})

Object.assign(globalThis, vue, { useEventListener, useLocalStorage, useTheme, useKeys, chordsOf, ApiProblem, callApi, wordsOf })
const stores = await Promise.all([
  import('../../app/stores/drafts'),
  import('../../app/stores/pantry'),
  import('../../app/stores/plan'),
  import('../../app/stores/server'),
  import('../../app/stores/session'),
  import('../../app/stores/sheet'),
  import('../../app/stores/tray'),
])
for (const store of stores) Object.assign(globalThis, store)

const components = import.meta.glob<{ default: vue.Component }>('../../app/components/**/*.vue', { eager: true })
for (const [path, { default: component }] of Object.entries(components)) {
  const name = path
    .split('/')
    .pop()!
    .replace(/\.vue$/, '')
  config.global.components[name] = config.global.components[`Lazy${name}`] = component
}
Object.assign(config.global.components, { ConfirmPopup, Dialog, ProgressBar, Select, SelectButton, ToggleSwitch })
config.global.stubs = { NuxtLink: { props: ['to'], template: '<a :href="to"><slot /></a>' }, Teleport: true }
config.global.plugins = [[PrimeVue, { unstyled: true, pt: parts }], ConfirmationService]

beforeEach(() => setActivePinia(createPinia()))
