/*
 * What Nuxt gives to the app without an import, for tests that run without Nuxt: Vue's functions, our utils, composables
 * and stores, and all components by name.
 */
import {
  computedAsync,
  useDebounceFn,
  watchDebounced,
  useElementSize,
  useEventListener,
  useIntervalFn,
  useLocalStorage,
  useObjectUrl,
  usePreferredReducedMotion,
  useTimeoutFn,
} from '@vueuse/core'
import { config } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import PrimeVue from 'primevue/config'
import Checkbox from 'primevue/checkbox'
import Column from 'primevue/column'
import ConfirmPopup from 'primevue/confirmpopup'
import ConfirmationService from 'primevue/confirmationservice'
import DataTable from 'primevue/datatable'
import Dialog from 'primevue/dialog'
import InputText from 'primevue/inputtext'
import Menu from 'primevue/menu'
import Message from 'primevue/message'
import ProgressBar from 'primevue/progressbar'
import Select from 'primevue/select'
import SelectButton from 'primevue/selectbutton'
import Toast from 'primevue/toast'
import ToastService from 'primevue/toastservice'
import ToggleSwitch from 'primevue/toggleswitch'
import { beforeEach, vi } from 'vitest'
import * as vue from 'vue'
import { chordsOf, useKeys } from '../../app/composables/use-keys'
import { useTask } from '../../app/composables/use-task'
import { useEntryActs } from '../../app/composables/use-entry-acts'
import { useItems } from '../../app/composables/use-items'
import { useOwnZone } from '../../app/composables/use-own-zone'
import { useNamedFiles } from '../../app/composables/use-named-files'
import { useTyped } from '../../app/composables/use-typed'
import { useTheme } from '../../app/composables/use-theme'
import parts from '../../app/theme/parts'
import { ApiProblem, callApi, onSignedOut, wordsOf } from '../../app/utils/api'
import { bytesOf } from '../../app/utils/bytes'
import { costLook, letterOf, signed, whyNoCost } from '../../app/utils/cost-words'
import { counted, plural } from '../../app/utils/counted'
import { cspNonce } from '../../app/utils/csp-nonce'
import { familyParts } from '../../app/utils/family-parts'
import { housePages } from '../../app/utils/house-pages'
import { pointerWords, shortPath } from '../../app/utils/pointer-words'
import { momentOf } from '../../app/utils/moments'
import { partNote, partTitle } from '../../app/utils/plan-words'
import { quotedWord } from '../../app/utils/quoted-word'
import { shortVersion } from '../../app/utils/short-version'
import { shortZone } from '../../app/utils/short-zone'
import { STATUS_WORDS } from '../../app/utils/status-words'
import { shortTime, timeLines, zoneOf } from '../../app/utils/time-line'
import { untilWords } from '../../app/utils/until-words'
import { TRAY_NEEDS } from '../../app/utils/tray-needs'
import { navigated } from './world'

vi.mock('../../app/drafts/worker-engine', async () => {
  const { SheetEngine } = await import('../../app/drafts/engine')
  const { engines } = await import('./engines')
  const openWorkerEngine = async (input: ConstructorParameters<typeof SheetEngine>[0]) => {
    engines.open++
    return { engine: new SheetEngine(input), close: () => void engines.open-- }
  }
  class EngineClosed extends Error {}
  return { openWorkerEngine, openSharedEngine: openWorkerEngine, EngineClosed }
})

vi.mock('../../app/workers/economy-lives', async () => {
  const { liveAll } = await import('@pasticcio/core')
  const beginLives = (plans: Parameters<typeof liveAll>[0], runs: number, told: (done: number) => void) => {
    let isEnded = false
    const outlooks = new Promise((resolve) => setImmediate(() => !isEnded && resolve(liveAll(plans, Math.min(runs, 3), told))))
    return { outlooks, end: () => (isEnded = true) }
  }
  return { beginLives }
})
vi.mock('../../app/charts/plotly', () => ({
  drawPicture: async () => undefined,
  clearPicture: async () => undefined,
  paintsIn: () => () => '#000000',
}))

const utils = {
  pointerWords,
  shortPath,
  ApiProblem,
  callApi,
  onSignedOut,
  wordsOf,
  bytesOf,
  costLook,
  counted,
  plural,
  cspNonce,
  familyParts,
  housePages,
  letterOf,
  momentOf,
  partNote,
  partTitle,
  quotedWord,
  shortTime,
  shortVersion,
  shortZone,
  signed,
  STATUS_WORDS,
  timeLines,
  TRAY_NEEDS,
  whyNoCost,
  zoneOf,
  untilWords,
}
const states = new Map<string, vue.Ref<unknown>>()
/** Kept over pages, as Nuxt does. */
const useState = (key: string, first: () => unknown): vue.Ref<unknown> => {
  if (!states.has(key)) states.set(key, vue.ref(first()))
  return states.get(key)!
}
const navigateTo = async (to: string | { path: string }): Promise<void> => void navigated.push(typeof to === 'string' ? to : to.path)
Object.assign(globalThis, vue, {
  computedAsync,
  useDebounceFn,
  watchDebounced,
  useElementSize,
  useEventListener,
  useIntervalFn,
  useLocalStorage,
  useObjectUrl,
  usePreferredReducedMotion,
  useTimeoutFn,
  useState,
  // pages are shown by themselves here, and none is left by an address
  onBeforeRouteLeave: () => undefined,
})
Object.assign(globalThis, {
  useEntryActs,
  useTask,
  useTheme,
  useItems,
  useNamedFiles,
  useOwnZone,
  useTyped,
  useKeys,
  chordsOf,
  navigateTo,
  ...utils,
})
const stores = await Promise.all([
  import('../../app/stores/drafts'),
  import('../../app/stores/entries'),
  import('../../app/stores/findings'),
  import('../../app/stores/messages'),
  import('../../app/stores/samples'),
  import('../../app/stores/permissions'),
  import('../../app/stores/economy'),
  import('../../app/stores/economy-changes'),
  import('../../app/stores/economy-days'),
  import('../../app/stores/price-book'),
  import('../../app/stores/right-changes'),
  import('../../app/stores/house'),
  import('../../app/stores/install'),
  import('../../app/stores/known'),
  import('../../app/stores/ledger'),
  import('../../app/stores/ledger-tables'),
  import('../../app/stores/new-server'),
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
const primeVueParts = {
  Checkbox,
  Column,
  ConfirmPopup,
  DataTable,
  Dialog,
  InputText,
  Menu,
  Message,
  ProgressBar,
  Select,
  SelectButton,
  Toast,
  ToggleSwitch,
}
Object.assign(config.global.components, primeVueParts)
config.global.mocks = utils
config.global.stubs = { NuxtLink: { props: ['to'], template: '<a :href="to"><slot /></a>' }, Teleport: true }
config.global.plugins = [[PrimeVue, { unstyled: true, pt: parts }], ConfirmationService, ToastService]

beforeEach(() => {
  setActivePinia(createPinia())
  navigated.length = 0
})
