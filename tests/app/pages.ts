import { mount, type VueWrapper } from '@vue/test-utils'
import { afterEach, beforeEach, vi } from 'vitest'
import { reactive } from 'vue'

/** Goes to other pages. */
const elsewhere = (globalThis as unknown as { readonly navigateTo: (to: unknown) => unknown }).navigateTo

/** Whole pages in the document, as somebody who looks at the screen has them. */
const open: VueWrapper[] = []

/** Where the pages stand; tests change it, and so do pages that keep what they show in the address. */
export const route = reactive({ path: '/servers', query: {} as Record<string, string>, params: {} })

export function show(component: Parameters<typeof mount>[0], props: Record<string, unknown> = {}): VueWrapper {
  const wrapper = mount(component as never, { props, attachTo: document.body } as never) as VueWrapper
  open.push(wrapper)
  return wrapper
}

/** All that can be read. */
export const text = (): string => document.body.textContent!.replace(/\s+/g, ' ')

/** The button of a name. @throws Error telling what can be read instead */
export function button(name: string): HTMLButtonElement {
  const found = [...document.querySelectorAll('button')].find(
    (item) => (item.getAttribute('aria-label') ?? item.textContent!.trim()) === name,
  )
  if (!found) throw new Error(`there is no button ${name} in ${text()}`)
  return found
}

beforeEach(() => {
  route.query = {}
  const navigateTo = (to: string | { path?: string; query?: Record<string, string> }): unknown => {
    if (typeof to === 'string' || to.path !== undefined) return elsewhere(to)
    return (route.query = to.query ?? {})
  }
  Object.assign(globalThis, { useRoute: () => route, useRouter: () => ({ push: vi.fn() }), navigateTo })
})
afterEach(() => {
  for (const wrapper of open.splice(0)) wrapper.unmount()
  document.body.innerHTML = ''
})

/** Chooses a file in the first field for one, as somebody does in the browser's own dialog. */
export function choose(file: File): void {
  const field = document.querySelector<HTMLInputElement>('input[type="file"]')!
  Object.defineProperty(field, 'files', { value: [file], configurable: true })
  field.dispatchEvent(new Event('change'))
}
