import { mount, type VueWrapper } from '@vue/test-utils'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import AppFrame from '../../app/components/frame/AppFrame.vue'
import { STATIONS, stationAt, type Station } from '../../app/stations'
import { useServerStore } from '../../app/stores/server'
import { useSessionStore } from '../../app/stores/session'
import { overviewOf, until } from './world'

/* A page, an entry, a folder of components: this is the entry, and all the rest of the house knows of it. */
const almanac: Station = {
  id: 'almanac',
  title: 'Almanac',
  key: 'a',
  badge: (overview) => ({ text: `${overview?.plugins.length ?? 0} pages` }),
}
const all = STATIONS as Station[]
const router = { push: vi.fn() }
let frame: VueWrapper

beforeEach(() => {
  all.push(almanac)
  const route = { path: '/s/lantern-row/almanac', params: {} }
  Object.assign(globalThis, { useRoute: () => route, useRouter: () => router })
  useServerStore().$patch({ slug: 'lantern-row', overview: overviewOf() })
  useSessionStore().me = { name: 'tobiah', role: 'editor', hasPassword: true }
  frame = mount(AppFrame, { attachTo: document.body })
})
afterEach(() => {
  frame.unmount()
  all.pop()
})

const press = (key: string): boolean => window.dispatchEvent(new KeyboardEvent('keydown', { key, cancelable: true }))

it('a station that was only just added stands in the spine, with its badge, and is the one at hand', () => {
  const links = frame.findAll('.st')
  expect(links.at(-1)!.attributes('href')).toBe('/s/lantern-row/almanac')
  expect(links.at(-1)!.text()).toBe('Almanac2 pages')
  expect(frame.get('[aria-current="page"]').text()).toContain('Almanac')
  expect(stationAt('/s/lantern-row/almanac/july', '/s/lantern-row')).toBe(almanac)
})

it('is gone to by its keys, and in the list of keys', async () => {
  press('g')
  press('a')
  expect(router.push).toHaveBeenCalledWith('/s/lantern-row/almanac')
  press('?')
  await until(() => expect(document.body.textContent).toContain('go to Almanac'))
})
